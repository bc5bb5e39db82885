/** Hosts of films that Dunlin is connected with. Tokens go one way only. */
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'

import { answered, client, type Schemas } from '@/api/client'

export type Connection = Schemas['ConnectionView']
export type HostFilm = Schemas['HostFilmView']

export const useHosts = defineStore('hosts', () => {
  const connections = shallowRef<Connection[] | null>(null)

  async function read(): Promise<void> {
    connections.value = await answered(client.GET('/api/hosts'))
  }
  async function connect(address: string, token: string): Promise<Connection> {
    const made = await answered(client.POST('/api/hosts', { body: { address, token } }))
    await read()
    return made
  }
  async function disconnect(connection_id: string): Promise<void> {
    await answered(client.DELETE('/api/hosts/{connection_id}', { params: { path: { connection_id } } }))
    await read()
  }
  const collections = (connection_id: string) => answered(client.GET('/api/hosts/{connection_id}/collections', { params: { path: { connection_id } } }))
  const films = (connection_id: string, query: { collection?: string; search?: string; after?: string } = {}) =>
    answered(client.GET('/api/hosts/{connection_id}/films', { params: { path: { connection_id }, query } }))
  /** Begins a project of a film there. */
  const take = (connection_id: string, film: string) => answered(client.POST('/api/hosts/{connection_id}/take', { params: { path: { connection_id } }, body: { film } }))

  return { connections, read, connect, disconnect, collections, films, take }
})
