/** What the host is asked, and what it answers. */

export interface Track {
  language: string
  is_open: boolean
  by_machine: boolean
  version: number
  changed_ms: number
  cues: number
  by: string
  page: string
}
export interface Film {
  id: string
  collection: string
  title: string
  about: string
  language: string
  duration_ms: number
  came_ms: number
  machine: 'none' | 'making' | 'made' | 'failed'
  tracks: Track[]
}
export interface Collection {
  id: string
  name: string
  films: number
}
export interface Writing {
  version: number
  cues: number
  by: string
  came_ms: number
}
export interface Token {
  id: string
  name: string
  scopes: string[]
  expires_ms: number
}
export interface Faults {
  slow_ms: number
  refuse: number
  times: number | null
  break_after: number | null
  lie_about_size: boolean
  redirect_to: string | null
  answer: 'markup' | 'megabytes' | null
}

/** Why something was not done, in a sentence. */
export class Refused extends Error {}

/** Asks as this page; programs ask with a token instead. */
export async function ask<Told>(method: string, path: string, body?: unknown): Promise<Told> {
  const answer = await fetch(`/api/${path}`, {
    method,
    headers: { 'Strandline-Page': '1', ...(body === undefined ? {} : { 'Content-Type': 'application/json' }) },
    body: body === undefined ? undefined : JSON.stringify(body),
  })
  if (answer.status === 204) return undefined as Told
  const told = await answer.json()
  if (!answer.ok) throw new Refused(told.says)
  return told
}

const names = new Intl.DisplayNames(['en'], { type: 'language' })
export function languageName(tag: string): string {
  try {
    return names.of(tag) ?? tag
  } catch {
    return tag
  }
}

/** Minutes and seconds, hours where there are some. */
export function runs(ms: number): string {
  const seconds = Math.floor(ms / 1000)
  const parts = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60]
  const told = parts[0] ? parts : parts.slice(1)
  return told.map((part, n) => (n ? String(part).padStart(2, '0') : String(part))).join(':')
}

const dates = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' })
export const when = (ms: number) => dates.format(ms)
