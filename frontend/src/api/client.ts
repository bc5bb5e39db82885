/** The server, by the types of its schema. */
import createClient from 'openapi-fetch'

import type { components, paths } from '@/api/schema'
import { identity } from '@/session/identity'
import { i18n, inWords, isMessage } from '@/kit/i18n'

export type Schemas = components['schemas']
export type ProjectView = Schemas['ProjectView']
export type TrackView = Schemas['TrackView']
export type CaptionsView = Schemas['CaptionsView']
export type CaptionView = Schemas['CaptionView']
export type EditView = Schemas['EditView']
export type ChangesView = Schemas['ChangesView']
export type JobView = Schemas['JobView']
export type Finding = Schemas['Finding']
export type Spec = Schemas['Spec']
export type Word = Schemas['Word']
export type WordsView = Schemas['WordsView']
export type EngineView = Schemas['EngineView']
export type FormatView = Schemas['FormatView']
export type Operation = Schemas['EditRequest']['operation']

export const client = createClient<paths>({ baseUrl: globalThis.location?.origin ?? '/', headers: identity })

/** Names an edit, so that it is stored once also when it is sent again because its answer was lost. */
export const named = (key: string) => ({ headers: { 'Idempotency-Key': key } })

/** A file as the body of a request, sent as it is. */
export const fileBody = (file: Blob) => ({ body: file as never, bodySerializer: (sent: unknown) => sent as Blob })

/** Something the server refused, and why. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly status: number,
    /** Names the problem, where a page can do something about it. */
    readonly code = '',
    readonly values: Record<string, unknown> = {},
  ) {
    super(message)
  }

  /** Whether the server looked at the request and said no; otherwise it may say yes when asked again. */
  get isFinal(): boolean {
    return this.status >= 400 && this.status < 500 && ![408, 425, 429].includes(this.status)
  }
}

/** There was no answer, or no whole one. */
export const unreachable = () => new Refused(i18n.global.t('refusal.unreachable'), 0)

/** The data of an answer. @throws Refused with what the server says, or with status 0 when there was no answer. */
export async function answered<T>(
  request: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await request.catch(() => {
    throw unreachable()
  })
  if (error !== undefined || !response.ok) {
    throw refusal(error, response.status)
  }
  return data as T
}

/** What the body of a refused request says; where it comes from none of Dunlin's, words for its status. */
export function refusal(problem: unknown, status: number): Refused {
  if (isMessage(problem)) return new Refused(inWords(problem), status, problem.code, problem.values)
  return new Refused(status === 409 ? i18n.global.t('refusal.changedElsewhere') : i18n.global.t('refusal.noAnswer', { status }), status)
}
