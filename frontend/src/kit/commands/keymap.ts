/** Which keys commands have here: those of the catalogue, but where a person has set others. */
import { useStorage } from '@vueuse/core'

import { type CommandId, comesBefore, type Declared, DECLARED } from '@/kit/commands/catalogue'
import { isKept, isKey, isTyped } from '@/kit/commands/keys'

export interface KeySet {
  keys: readonly string[]
  text: readonly string[]
}
export type Slot = keyof KeySet
type Changes = Partial<Record<CommandId, KeySet>>

/** What was set otherwise. It is kept by the browser, and other windows of it hear of a change. */
const changes = useStorage<Changes>('dunlin.keys', {}, undefined, { mergeDefaults: false })

/** Whether a person has set the keys of a command. */
export const hasOwnKeys = (id: CommandId) => id in changes.value

/** The keys of a command that are in force: outside of text, and those that work in text too. */
export function keysOf(id: CommandId): KeySet {
  const declared = DECLARED.get(id)!
  if (changes.value[id]) return changes.value[id]
  // What shares its keys has them as they are in force, and may have one of its own beside them.
  const shared = declared.sharesWith ? keysOf(declared.sharesWith) : { keys: [], text: [] }
  return { keys: [...shared.keys, ...declared.keys], text: [...shared.text, ...declared.text] }
}

/** The key to show for a command: the first that works where the person is; nothing where it has none. */
export function keyOf(id: CommandId, inText = false): string | undefined {
  const { keys, text } = keysOf(id)
  return inText ? text[0] : (keys[0] ?? text[0])
}

const owner = (id: CommandId): CommandId => DECLARED.get(id)!.sharesWith ?? id

/** Commands of the same area that a key would be taken from. */
export function takenFrom(id: CommandId, key: string): CommandId[] {
  return others(id, key, (one, other) => one.area === other.area)
}

/** Commands that a key is looked for after this one where both work, or before it. */
export function alsoOn(id: CommandId, key: string): { behind: CommandId[]; before: CommandId[] } {
  return {
    behind: others(id, key, (one, other) => comesBefore(one.area, other.area)),
    before: others(id, key, (one, other) => comesBefore(other.area, one.area)),
  }
}

function others(id: CommandId, key: string, meet: (one: Declared, other: Declared) => boolean): CommandId[] {
  const one = DECLARED.get(id)!
  return [...DECLARED.values()]
    .filter((other) => owner(other.id) !== owner(id) && meet(one, other) && has(other.id, key))
    .map((other) => other.id)
}

/** Outside of text, the keys for text work too: there a key is one command's, whichever it is for. */
function has(id: CommandId, key: string): boolean {
  const { keys, text } = keysOf(id)
  return text.includes(key) || keys.includes(key)
}

export type Unfit = 'no-key' | 'kept' | 'typed'

/** Why a key cannot be given in this slot; null when it can. */
export function unfit(key: string, slot: Slot): Unfit | null {
  if (!isKey(key)) return 'no-key'
  if (isKept(key)) return 'kept'
  return slot === 'text' && isTyped(key) ? 'typed' : null
}

const changesWithout = (id: CommandId): Changes =>
  Object.fromEntries(Object.entries(changes.value).filter(([other]) => other !== id))

function set(id: CommandId, keys: KeySet) {
  const rest = changesWithout(id)
  const declared = DECLARED.get(id)!
  const asDeclared = keys.keys.join(' ') === declared.keys.join(' ') && keys.text.join(' ') === declared.text.join(' ')
  changes.value = asDeclared && !declared.sharesWith ? rest : { ...rest, [id]: keys }
}

/** Gives a command a key, in the place of another or beside those it has, and takes it from whatever had it there. */
export function giveKey(id: CommandId, key: string, slot: Slot, instead?: string) {
  for (const other of takenFrom(id, key)) takeKey(other, key)
  const own = keysOf(id)
  const given = own[slot].includes(key) ? own[slot].filter((k) => k !== instead || k === key) : instead ? own[slot].map((k) => (k === instead ? key : k)) : [...own[slot], key]
  set(id, { ...own, [slot]: given })
}

/** Takes a key from a command. */
export function takeKey(id: CommandId, key: string) {
  const own = keysOf(id)
  set(id, { keys: own.keys.filter((k) => k !== key), text: own.text.filter((k) => k !== key) })
}

/** Gives a command its keys of the catalogue back, from whatever has them now. */
export function resetKeys(id: CommandId) {
  changes.value = changesWithout(id)
  const { keys, text } = keysOf(id)
  for (const key of [...keys, ...text]) for (const other of takenFrom(id, key)) takeKey(other, key)
}

export function resetAllKeys() {
  changes.value = {}
}

export const changedCount = () => Object.keys(changes.value).length

/** The keys that were set otherwise, as a file to keep or to give on. */
export function exportedKeys(): string {
  return JSON.stringify({ 'dunlin-keys': 1, keys: changes.value }, null, 2) + '\n'
}

/** What is wrong with a file of keys: a code of the locale files, and its values. */
export class NoKeys extends Error {
  constructor(
    readonly code: 'no-file' | 'not-a-key' | 'twice',
    readonly values: Record<string, string> = {},
  ) {
    super(code)
  }
}

/**
 * Takes the keys of a file in the place of those set here; commands that this version does not have are left out.
 *
 * @returns ids of what was left out
 * @throws NoKeys when it is no such file, or two commands of one area would have a key; nothing is changed then
 */
export function importKeys(text: string): string[] {
  const read = readFile(text)
  const known = Object.entries(read).filter(([id]) => DECLARED.has(id as CommandId)) as [CommandId, KeySet][]
  for (const [id, { keys, text }] of known) {
    for (const [slot, list] of [['keys', keys], ['text', text]] as const) {
      const wrong = list.find((key) => unfit(key, slot))
      if (wrong !== undefined) throw new NoKeys('not-a-key', { key: wrong, command: id })
    }
  }
  const before = changes.value
  changes.value = Object.fromEntries(known)
  const twice = firstConflict()
  if (twice) {
    changes.value = before
    throw new NoKeys('twice', twice)
  }
  return Object.keys(read).filter((id) => !DECLARED.has(id as CommandId))
}

function readFile(text: string): Record<string, KeySet> {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    throw new NoKeys('no-file')
  }
  const { 'dunlin-keys': version, keys } = (data ?? {}) as { 'dunlin-keys'?: unknown; keys?: unknown }
  const listed = (list: unknown) => Array.isArray(list) && list.every((key) => typeof key === 'string')
  const isSet = (value: unknown) => listed((value as KeySet | null)?.keys) && listed((value as KeySet | null)?.text)
  if (version !== 1 || !keys || typeof keys !== 'object' || !Object.values(keys).every(isSet)) throw new NoKeys('no-file')
  return keys as Record<string, KeySet>
}

/** Two commands of one area that have a key both; null when there are none. */
export function firstConflict(): { key: string; command: string; other: string } | null {
  const had = new Map<string, CommandId>()
  for (const { id, area } of DECLARED.values()) {
    const { keys, text } = keysOf(id)
    for (const key of [...keys, ...text]) {
      const before = had.get(`${area} ${key}`)
      if (before && owner(before) !== owner(id)) return { key, command: before, other: id }
      had.set(`${area} ${key}`, before ?? id)
    }
  }
  return null
}
