/**
 * Windows that work on one track at once, or on a source and its translation, made of the page's own modules, on a running server: random edits,
 * delays, lost answers, undo, and a server that is killed in between. In the end all show the same.
 */
import { appendFileSync, readFileSync } from 'node:fs'

import { expect, test, vi } from 'vitest'

const { DUNLIN_URL: url, DUNLIN_PROJECT: project, DUNLIN_TRACKS: ids, DUNLIN_SEED: seed, DUNLIN_SAID: said, DUNLIN_STEPS: steps } =
  process.env as Record<string, string>
/** The track that is worked on, or a source and its translation. */
const TRACKS = ids!.split(' ')
const PEOPLE = ['ilse', 'ilse', 'tobit']

/** Numbers from 0 to 1 that are the same for a seed (mulberry32, public domain). */
function randomFrom(start: number) {
  let state = start
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

const random = randomFrom(Number(seed))
const below = (n: number) => Math.floor(random() * n)
const later = globalThis.setTimeout
const wait = (ms: number) => new Promise<void>((resolve) => later(resolve, ms))
let troubled = true

const RETRY_MS = 1500
// What waits a second and a half between two tries waits less here.
vi.stubGlobal('setTimeout', (work: () => void, ms?: number, ...more: []) => later(work, ms === RETRY_MS ? ms / 20 : ms, ...more))
vi.stubGlobal('location', { origin: url })

const realFetch = globalThis.fetch
/** The network: slow at times, and losing requests and answers. */
vi.stubGlobal('fetch', async (...request: Parameters<typeof fetch>) => {
  const body = request[0] instanceof Request && request[0].method === 'POST' ? await request[0].clone().text() : ''
  if (troubled) await wait(below(25))
  if (troubled && random() < 0.08) throw new TypeError('the request was lost')
  const answer = await realFetch(...request)
  await answer.clone().arrayBuffer()
  if (troubled) await wait(below(40))
  if (troubled && random() < 0.12) throw new TypeError('the answer was lost')
  // Words are acknowledged when the answer has come back.
  const [, word] = /"text":"((?:ilse|tobit)-[\w-]+)"/.exec(body) ?? []
  if (word && answer.ok) appendFileSync(said!, JSON.stringify({ acknowledged: word }) + '\n')
  return answer
})

async function openWindow(person: string) {
  vi.resetModules()
  // Kept by the browser; the windows of one person have the same.
  vi.doMock('@/session/identity', () => {
    const windowName = `w${below(1e9)}`
    const newId = () => Array.from({ length: 12 }, () => below(16).toString(16)).join('')
    return { newId, person, windowName, identity: { 'Dunlin-Person': person, 'Dunlin-Window': windowName } }
  })
  const { openTrack } = await import('@/session/openTrack')
  const { retiming } = await import('@/session/merging')
  const { answered, client } = await import('@/api/client')
  const { newId, windowName } = await import('@/session/identity')
  const { savingOfAll, waitingOfAll } = await import('@/session/storedEdits')
  const notes: string[] = []
  const opened = TRACKS.map((id) => openTrack(id, (note) => void notes.push(note)))
  const openOf = (id: string) => opened.find((open) => open.id === id)
  const happened = (view: Told) => Promise.all(view.tracks.map((edit) => openOf(edit.track_id)?.happened(edit as never)))
  const events = follow(windowName, happened, ({ revision }) => Promise.all(opened.map((open) => open.reached(revision))))
  for (;;) {
    try {
      await Promise.all(opened.map((open) => open.reload()))
      break
    } catch {
      await wait(20)
    }
  }
  let words = 0

  async function step(direction: 'undo' | 'redo') {
    await Promise.all(opened.map((open) => open.settled()))
    try {
      const body = { targets: TRACKS.flatMap((id) => [`tracks/${id}/captions`, `tracks/${id}/links`]) }
      const made = await answered(client.POST(`/api/projects/{project_id}/${direction}`, { params: { path: { project_id: project! } }, body }))
      if (made) await happened(made)
    } catch {
      // Nothing to undo, somebody in the way, or no answer: the event stream tells what came of it.
    }
  }

  /** Says of a translated caption that it is done, or not; whether it was heard of goes by the links on the server. */
  async function confirm(caption: string) {
    const params = { path: { track_id: TRACKS.at(-1)! } }
    const body = { base_revision: Math.max(...opened.map((open) => open.seen())), gesture: newId(), progress: { [caption]: below(3) ? ('done' as const) : null } }
    await answered(client.PUT('/api/tracks/{track_id}/translation/progress', { params, body })).catch(() => undefined)
  }

  async function act() {
    const open = opened[below(opened.length)]!
    const captions = open.captions.value
    const caption = captions[below(captions.length)]
    const gesture = newId()
    const kind = below(10)
    if (opened.length > 1 && caption && open === opened[1] && below(4) === 0) return confirm(caption.id)
    if (kind < 4 && caption) {
      const word = `${person}-${windowName}-${words++}`
      open.edit({ kind: 'change-captions', changes: [{ caption: caption.id, text: word }] }, gesture)
    } else if (kind < 6 && caption) {
      const in_ms = caption.in_ms + below(40)
      open.edit(retiming([{ caption: caption.id, in_ms, out_ms: in_ms + 500 + below(500) }]), gesture)
    } else if (kind === 6 || !caption) {
      const in_ms = below(60_000)
      const fresh = { id: newId(), in_ms, out_ms: in_ms + 900, spans: [{ text: 'put in', italic: false, bold: false, underline: false, extras: [] }], extras: [], locked: false }
      open.edit({ kind: 'insert-captions', captions: [fresh] }, gesture)
    } else if (kind === 7 && captions.length > 4) {
      open.edit({ kind: 'delete-captions', captions: [caption.id] }, gesture)
    } else if (kind === 8) {
      await step(random() < 0.7 ? 'undo' : 'redo')
    } else {
      const at = captions.indexOf(caption)
      const next = captions[at + 1]
      if (next) open.edit({ kind: 'merge-captions', captions: [caption.id, next.id] }, gesture)
    }
  }

  return { opened, act, events, notes, savingOfAll, waitingOfAll }
}

type Told = { tracks: { track_id: string }[] }

/** The stream of events, begun again after every break, with all read anew as the page does. */
function follow(windowName: string, happened: (view: Told) => Promise<unknown>, reached: (own: { revision: number }) => Promise<unknown>) {
  let reload: () => Promise<unknown> = async () => {}
  let ended = false
  async function listen() {
    for (let first = true; !ended; first = false) {
      try {
        const answer = await realFetch(`${url}/api/projects/${project}/events?window=${windowName}`)
        if (!first) await reload()
        let text = ''
        for await (const part of answer.body!.pipeThrough(new TextDecoderStream())) {
          text += part
          const blocks = text.split('\n\n')
          text = blocks.pop()!
          for (const block of blocks) {
            if (troubled) await wait(below(60))
            const data = () => JSON.parse(block.slice(block.indexOf('data: ') + 6))
            if (block.includes('event: changed')) await happened(data() as Told)
            if (block.includes('event: own')) void reached(data() as { revision: number })
          }
          if (ended) return
        }
      } catch {
        await wait(30)
      }
    }
  }
  void listen()
  return { onBreak: (work: () => Promise<unknown>) => (reload = work), end: () => (ended = true) }
}

const shown = (captions: readonly { id: string; in_ms: number; out_ms: number; spans: readonly { text: string }[] }[]) =>
  captions.map(({ id, in_ms, out_ms, spans }) => `${id} ${in_ms} ${out_ms} ${spans.map(({ text }) => text).join('')}`)

test('all windows end with the same captions, those of the server', async () => {
  const windows = []
  for (const person of PEOPLE) windows.push(await openWindow(person))
  for (const { opened, events } of windows) events.onBreak(() => Promise.all(opened.map((open) => open.reload())))
  await Promise.all(
    windows.map(async ({ act }) => {
      for (let n = 0; n < Number(steps); n++) {
        await act()
        await wait(below(60))
      }
    }),
  )
  troubled = false
  const all = windows.flatMap(({ opened }) => opened)
  for (const open of all) await open.settled()
  const end = Date.now() + 60_000
  /** The track as it is stored. A server that was killed at the very end comes back. */
  const atServer = async (track: string): Promise<{ revision: number; captions: never[] }> => {
    for (;;) {
      try {
        return await (await realFetch(`${url}/api/tracks/${track}`)).json()
      } catch (lost) {
        if (Date.now() > end) throw lost
        await wait(100)
      }
    }
  }
  for (;;) {
    const now = new Map(await Promise.all(TRACKS.map(async (id) => [id, shown((await atServer(id)).captions).join('\n')] as const)))
    const same = all.every((open) => shown(open.captions.value).join('\n') === now.get(open.id))
    if (same || Date.now() > end) break
    await wait(100)
  }
  for (const open of all) {
    expect(shown(open.captions.value)).toEqual(shown((await atServer(open.id)).captions))
    expect(open.saving.value).toBe('saved')
  }
  for (const { savingOfAll, waitingOfAll } of windows) expect([savingOfAll.value, waitingOfAll.value]).toEqual(['saved', 0])
  // What was refused is kept with its words; all else that was written is stored.
  const kept = all.flatMap((open) => open.left.value.map(({ words }) => words))
  appendFileSync(said!, JSON.stringify({ kept }) + '\n')
  for (const { events } of windows) events.end()
  expect(readFileSync(said!, 'utf8')).toContain('kept')
})
