/** The term lists of a project and of the house, as they are on the server. */
import { shallowRef, watch } from 'vue'

import { answered, client, fileBody, named, type Schemas } from '@/api/client'
import { useProject } from '@/session/projectStore'
import { newId } from '@/session/identity'

export type TermView = Schemas['TermView']
export type TermEntry = Schemas['TermEntry']
export type Scope = TermView['scope']

/** What one types for several words. */
export const wordsIn = (text: string) => text.split('|').map((one) => one.trim()).filter(Boolean)

export function useGlossary() {
  const project = useProject()
  const lists = shallowRef<Schemas['GlossaryView'] | null>(null)
  const id = () => project.project!.id

  async function read() {
    lists.value = await answered(client.GET('/api/projects/{project_id}/glossary', { params: { path: { project_id: id() } } }))
  }
  watch(() => project.termListChanges, () => void read().catch(() => undefined), { immediate: true })

  /** Makes a term this one, or a new one; refused when another window changed it since it was read. */
  async function put(scope: Scope, entry: TermEntry, term_id = newId()) {
    const base_revision = (scope === 'house' ? lists.value?.house_revision : lists.value?.revision) ?? 0
    const params = { path: { project_id: id(), scope, term_id } }
    lists.value = await answered(client.PUT('/api/projects/{project_id}/glossary/{scope}/{term_id}', { params, ...named(newId()), body: { base_revision, entry } }))
  }
  async function remove({ scope, id: term_id }: TermView) {
    const params = { path: { project_id: id(), scope, term_id } }
    lists.value = await answered(client.DELETE('/api/projects/{project_id}/glossary/{scope}/{term_id}', { params, ...named(newId()) }))
  }
  /** Takes a file in; gives how many terms there are more. */
  async function takeIn(scope: Scope, language: string, file: File): Promise<number> {
    const before = lists.value?.terms.length ?? 0
    const kind = /\.(tbx|xml)$/i.test(file.name) ? ('tbx' as const) : ('csv' as const)
    const params = { path: { project_id: id(), scope, kind }, query: { language } }
    lists.value = await answered(client.POST('/api/projects/{project_id}/glossary/{scope}.{kind}', { params, ...named(newId()), ...fileBody(file) }))
    return lists.value.terms.length - before
  }
  const fileOf = (scope: Scope, kind: 'csv' | 'tbx') => `/api/projects/${id()}/glossary/${scope}.${kind}`

  return { lists, read, put, remove, takeIn, fileOf }
}
