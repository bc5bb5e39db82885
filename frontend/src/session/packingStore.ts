/** The packing lists of the project: what is on them, how it stands, and what becomes of it. What is done to a list is seen at
 *  once, and stored in turn. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { answered, client, named, type Schemas } from '@/api/client'
import type { Waiting } from '@/session/editQueue'
import { newId } from '@/session/identity'
import { usePeople } from '@/session/people'
import { useProject } from '@/session/projectStore'
import { useTrack, useTracks } from '@/session/tracksStore'
import { storedEdits } from '@/session/storedEdits'

export type Item = Schemas['Item']
export type Thing = Item['thing']
export type Delivery = Schemas['Delivery']
export type DeliveryView = Schemas['DeliveryView']
export type ItemStanding = Schemas['ItemStandingView']

type Edit = { kind: 'items'; items: Record<string, Item | null> } | { kind: 'put'; is: Delivery } | { kind: 'remove' }
/** Of which list it was made, and of which revision. */
type Asked = Edit & { project: string; list: string; base: number }
type Answer = Schemas['DeliveriesView'] | DeliveryView

export const usePacking = defineStore('packing', () => {
  const project = useProject()
  const tracks = useTracks()
  const track = useTrack()
  const people = usePeople()
  const lists = shallowRef<Schemas['DeliveriesView'] | null>(null)
  const view = shallowRef<DeliveryView | null>(null)
  /** The list that is shown; null is none, as there is none yet. */
  const shownId = ref<string | null>(null)
  const selectedId = ref<string | null>(null)
  /** Whether a window shows lists: nothing is read before. */
  let wanted = false

  const shown = computed(() => lists.value?.deliveries.find(({ id }) => id === shownId.value)?.delivery)
  const selected = computed(() => view.value?.items.find(({ id }) => id === selectedId.value))
  /** The job that makes the list that is shown, or made it last. */
  const job = computed(() => project.jobs.find(({ kind, parameters }) => kind === 'pack' && parameters.delivery === shownId.value))
  const isBeingMade = computed(() => job.value?.state === 'waiting' || job.value?.state === 'running')

  const { queue } = storedEdits<Asked, Answer>({
    send,
    took: (answer, { edit }) => edit.project === project.project?.id && took(answer),
    refused: async (why) => {
      tracks.refusal = (why as Error).message
      await read()
    },
    joined: (next, last) =>
      next.kind === 'items' && last.kind === 'items' && next.list === last.list ? { ...next, items: { ...last.items, ...next.items }, base: last.base } : null,
  })

  function took(answer: Answer) {
    // What waits is newer than any answer; the last one holds all of it.
    if (queue.waiting.length) return
    if ('deliveries' in answer) {
      if (lists.value && answer.revision < lists.value.revision) return
      lists.value = answer
      if (!answer.deliveries.some(({ id }) => id === shownId.value)) void show(answer.deliveries[0]?.id ?? null)
    } else if (answer.id === shownId.value && !(view.value?.id === answer.id && answer.revision < view.value.revision)) {
      view.value = answer
      if (!answer.items.some(({ id }) => id === selectedId.value)) selectedId.value = answer.items[0]?.id ?? null
    }
  }

  let reads = 0
  let asked = 0
  let told = 0
  /** Ends when the list is read that is shown. */
  let opening: Promise<void> = Promise.resolve()
  /** Reads the lists, and how the one stands that is shown. */
  async function read(): Promise<void> {
    const project_id = project.project?.id
    if (!project_id) return
    wanted = true
    const turn = ++reads
    const found = await answered(client.GET('/api/projects/{project_id}/deliveries', { params: { path: { project_id } } }))
    if (turn !== reads || project_id !== project.project?.id) return
    took(found)
    await readShown()
  }
  async function readShown() {
    const [project_id, delivery_id] = [project.project?.id, shownId.value]
    if (!project_id || !delivery_id) return
    const turn = ++asked
    const found = await answered(client.GET('/api/projects/{project_id}/deliveries/{delivery_id}', { params: { path: { project_id, delivery_id } } }))
    // One that was asked for later may be there already, and tells more.
    if (turn < told || project_id !== project.project?.id) return
    told = turn
    took(found)
  }
  /** How what was sent is on its hosts, as they were asked last: once for each making, as it takes them a while. */
  const there = shallowRef<Record<string, Schemas['ThereView']>>({})
  const sentOf = () => (view.value?.items ?? []).map(({ id, sent }) => `${id} ${sent?.sent_ms ?? ''}`).join()
  watch([sentOf, () => view.value?.id], async () => {
    const delivery_id = view.value?.id
    there.value = {}
    if (!delivery_id || !view.value?.items.some(({ sent }) => sent?.sent_ms)) return
    const params = { path: { project_id: project.project!.id, delivery_id } }
    const found = await answered(client.GET('/api/projects/{project_id}/deliveries/{delivery_id}/there', { params })).catch(() => ({}))
    if (delivery_id === view.value?.id) there.value = found
  })
  const again = () => wanted && void read().catch(() => undefined)
  // What other windows do, undo, and whatever makes what was made out of date.
  watch(() => [project.changes, job.value?.state, job.value?.step].map(String).join(' '), again)
  watch(() => track.captions, again)
  watch(
    () => project.project?.id,
    () => {
      lists.value = view.value = null
      shownId.value = selectedId.value = null
      wanted = false
      reads++
    },
    { flush: 'sync' },
  )

  function send({ edit, key }: Waiting<Asked>): Promise<Answer> {
    const params = { path: { project_id: edit.project, delivery_id: edit.list } }
    const base_revision = edit.base
    switch (edit.kind) {
      case 'items':
        return answered(client.PUT('/api/projects/{project_id}/deliveries/{delivery_id}/items', { params, ...named(key), body: { items: edit.items, base_revision } }))
      case 'put':
        return answered(client.PUT('/api/projects/{project_id}/deliveries/{delivery_id}', { params, ...named(key), body: { delivery: edit.is, base_revision } }))
      case 'remove':
        return answered(client.DELETE('/api/projects/{project_id}/deliveries/{delivery_id}', { params, ...named(key) }))
    }
  }
  const ask = (list: string, edit: Edit, base: number) => queue.push({ ...edit, project: project.project!.id, list, base }, newId())

  /** Shows another list; ends when it is read. */
  function show(id: string | null): Promise<void> {
    if (id !== shownId.value) {
      shownId.value = id
      view.value = null
      selectedId.value = null
      opening = readShown().catch(() => undefined)
    }
    return opening
  }

  /** Begins a list, empty or as one of the house, and shows it. */
  async function begin(name: string, houseId: string | null = null): Promise<void> {
    const id = newId()
    if (houseId) {
      const params = { path: { project_id: project.project!.id } }
      took(await answered(client.POST('/api/projects/{project_id}/deliveries', { params, ...named(newId()), body: { list_id: houseId, delivery_id: id } })))
    } else {
      const place = 1 + Math.max(0, ...(lists.value?.deliveries ?? []).map(({ delivery }) => delivery.place ?? 0))
      await ask(id, { kind: 'put', is: { name, place } as Delivery }, lists.value?.revision ?? 0)
    }
    await show(id)
  }
  /** Makes something of the list that is shown otherwise: its name, its pattern, its version. */
  function change(values: Partial<Delivery>): Promise<void> {
    if (!shown.value || !lists.value) return Promise.resolve()
    const is = { ...shown.value, ...values }
    const id = shownId.value!
    lists.value = { ...lists.value, deliveries: lists.value.deliveries.map((one) => (one.id === id ? { id, delivery: is } : one)) }
    // Names of what is on it follow from it.
    return ask(id, { kind: 'put', is }, lists.value.revision).then(readShown)
  }
  async function remove(): Promise<void> {
    const id = shownId.value
    if (id) await ask(id, { kind: 'remove' }, lists.value?.revision ?? 0)
  }

  /** Makes things on the list that is shown these, puts them on it, or takes them off. */
  function put(items: Record<string, Item | null>): Promise<void> {
    const now = view.value
    if (!now) return Promise.resolve()
    const kept = now.items.filter(({ id }) => items[id] !== null).map((one) => (items[one.id] ? { ...one, item: items[one.id]! } : one))
    view.value = { ...now, items: kept }
    return ask(now.id, { kind: 'items', items }, now.revision)
  }
  /** Puts a thing at the end of the list that is shown, and selects it. */
  async function add(thing: Thing): Promise<void> {
    const id = newId()
    const place = 1 + Math.max(0, ...(view.value?.items ?? []).map(({ item }) => item.place ?? 0))
    await put({ [id]: { thing, place, name: '', left_out: false } })
    selectedId.value = id
  }
  /** Takes what is selected off the list; what stands behind it is selected then. */
  function takeOff(): Promise<void> {
    const at = view.value?.items.findIndex(({ id }) => id === selectedId.value) ?? -1
    if (at < 0) return Promise.resolve()
    const items = view.value!.items
    const id = items[at]!.id
    selectedId.value = (items[at + 1] ?? items[at - 1])?.id ?? null
    return put({ [id]: null })
  }

  const path = () => ({ project_id: project.project!.id, delivery_id: shownId.value! })
  /** Asks for what is not up to date, or for some things whether they are or not. */
  async function make(items: string[] | null = null): Promise<void> {
    await Promise.all([tracks.settled(), queue.settled()])
    const body = { items, anew: items !== null, author: people.ownName }
    await project.askFor(answered(client.POST('/api/projects/{project_id}/deliveries/{delivery_id}/make', { params: { path: path() }, body })))
  }
  /** Asks for the first minute of a film. */
  async function prove(item_id: string): Promise<void> {
    await Promise.all([tracks.settled(), queue.settled()])
    const params = { path: { ...path(), item_id } }
    await project.askFor(answered(client.POST('/api/projects/{project_id}/deliveries/{delivery_id}/items/{item_id}/proof', { params, body: { from_ms: 0, seconds: 60 } })))
  }
  const address = (item: string, what: 'file' | 'text') => `/api/projects/${project.project!.id}/deliveries/${shownId.value}/items/${item}/${what}`
  const archive = () => `/api/projects/${project.project!.id}/deliveries/${shownId.value}/zip`

  return {
    lists, view, shownId, shown, selectedId, selected, job, isBeingMade, read, show, begin, change, remove, put, add, takeOff, make, prove, address,
    archive, there, settled: () => queue.settled(),
  }
})
