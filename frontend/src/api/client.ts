/** The server, by the types of its schema. */
import createClient from 'openapi-fetch'

import type { components, paths } from '@/api/schema'

export type Schemas = components['schemas']
export type ProjectView = Schemas['ProjectView']
export type TrackView = Schemas['TrackView']
export type CaptionView = Schemas['CaptionView']
export type EditView = Schemas['EditView']
export type JobView = Schemas['JobView']
export type Finding = Schemas['Finding']
export type Spec = Schemas['Spec']
export type Word = Schemas['Word']
export type WordsView = Schemas['WordsView']
export type EngineView = Schemas['EngineView']
export type FormatView = Schemas['FormatView']
export type Operation = Schemas['EditRequest']['operation']

export const client = createClient<paths>({ baseUrl: '/' })

/** A file as the body of a request, sent as it is. */
export const fileBody = (file: Blob) => ({ body: file as never, bodySerializer: (sent: unknown) => sent as Blob })

/** Something the server refused, in its own words. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly status: number,
  ) {
    super(message)
  }
}

/** The data of an answer. @throws Refused with the server's words. */
export async function answered<T>(
  request: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await request
  if (error !== undefined || !response.ok) throw new Refused(reason(error, response), response.status)
  return data as T
}

function reason(error: unknown, response: Response): string {
  if (error && typeof error === 'object' && 'detail' in error) {
    const detail = (error as { detail: unknown }).detail
    if (typeof detail === 'string') return detail
    if (Array.isArray(detail) && detail[0]?.msg) return String(detail[0].msg)
  }
  return `${response.status} ${response.statusText}`
}
