import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'

import { client, type ProjectView } from '@/api/client'
import { useProject } from '@/session/projectStore'

const named = (name: string) => [{ name, colour: '#2f6f8f' }]
const view = (revision: number, name: string) => ({ id: 'p', revision, speakers: named(name), jobs: [], tracks: [] })
const data = <T,>(of: T) => ({ data: of, response: new Response() })
const words = { run: null, revision: 0, can_undo: true, can_redo: false, first: 0, words: [] }

const names = ({ project }: { project: ProjectView | null }) => project?.speakers.map(({ name }) => name)

/** Answers that are given when the test says so, by the order in which they were asked for. */
function heldBack() {
  const answers: ((of: unknown) => void)[] = []
  return { answers, ask: () => new Promise((resolve) => answers.push(resolve)) as never }
}

describe('a speaker who gets another name', () => {
  const projects = heldBack()

  beforeEach(() => {
    setActivePinia(createPinia())
    vi.spyOn(client, 'PUT').mockResolvedValue(data(words) as never)
    vi.spyOn(client, 'GET').mockImplementation(((path: string) =>
      path.endsWith('/words') ? Promise.resolve(data(words)) : projects.ask()) as never)
  })

  it('keeps it while a project is still being read that was asked for before', async () => {
    const store = useProject()
    store.project = view(1, 'Speaker 1') as never
    const early = store.refresh()
    const kept = store.changeSpeakers(named('Ilse Varga'))
    await vi.waitFor(() => expect(projects.answers).toHaveLength(2))
    projects.answers[0]!(data(view(1, 'Speaker 1')))
    await early
    expect(names(store)).toEqual(['Ilse Varga'])
    projects.answers[1]!(data(view(2, 'Ilse Varga')))
    await kept
    expect(names(store)).toEqual(['Ilse Varga'])
  })
})
