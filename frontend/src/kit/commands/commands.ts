/** What commands do, for as long as the views are there that do it; their keys are in the catalogue. */
import { nextTick, onScopeDispose, shallowReactive } from 'vue'

import type { CommandId } from '@/kit/commands/catalogue'
import { keyName, ownerOf, takesText } from '@/kit/commands/keys'
import { keysOf } from '@/kit/commands/keymap'

export interface Command {
  /** Names it in the catalogue, and in the locale files as `command.<id>`. */
  id: CommandId
  run: (event?: KeyboardEvent) => void
  /** When the key is let go that `run` was called for. */
  up?: (event: KeyboardEvent) => void
  enabled?: () => boolean
  /** What is missing when it is not enabled, as `why.<name>` of the locale files. */
  why?: 'film' | 'caption' | 'captions' | 'shots' | 'findings' | 'text' | 'words' | 'style' | 'version' | 'window' | 'now'
}

/** In the order they came: what came last is asked first. */
const registered = shallowReactive<Command[]>([])

/** Adds commands for as long as the component that adds them is there. */
export function useCommands(list: Command[]) {
  registered.push(...list)
  onScopeDispose(() => {
    for (const command of list) registered.splice(registered.indexOf(command), 1)
  })
}

/** Which commands rest now, and whether any do. */
const resting = shallowReactive<{ rests: (id: CommandId) => boolean; now: () => boolean }[]>([])

/** Lets commands rest while something goes on that a slip of a key must not disturb. */
export function useRestingKeys(rests: (id: CommandId) => boolean, now: () => boolean) {
  const entry = { rests, now }
  resting.push(entry)
  onScopeDispose(() => resting.splice(resting.indexOf(entry), 1))
}

const isReady = (command: Command) =>
  (command.enabled?.() ?? true) && !resting.some(({ rests, now }) => now() && rests(command.id))

/** Who does what a command says: whoever can do it now, else whoever could; undefined where nobody is there for it. */
export function commandOf(id: CommandId): Command | undefined {
  const own = registered.filter((command) => command.id === id)
  return own.findLast(isReady) ?? own.at(-1)
}

/** Whether a command would do something now. */
export function isPossible(id: CommandId): boolean {
  const command = commandOf(id)
  return command !== undefined && isReady(command)
}

/** Does what a command does, for a button; nothing where nobody does it now. */
export function run(id: CommandId) {
  const command = commandOf(id)
  if (command && isReady(command)) command.run()
}

/** Commands whose key is down, by the key's place on the keyboard. */
const held = new Map<string, Command>()

/** Tells a command that its key was let go. */
export function letGo(event: KeyboardEvent) {
  held.get(event.code)?.up?.(event)
  held.delete(event.code)
}

/** Keys pressed for what is still coming, in their order, and how much is. */
const early: KeyboardEvent[] = []
let coming = 0
let catchingUp = false

/** Keys that are pressed until something is there are meant for it, and wait. */
export async function keysWaitFor(arrival: Promise<unknown>) {
  coming++
  try {
    await arrival
  } finally {
    coming--
    await catchUp()
  }
}

/** Does what the keys say that waited, each once what the one before it brought is there and listens to keys. */
async function catchUp() {
  if (catchingUp) return
  catchingUp = true
  try {
    for (await nextTick(); !coming && early.length; await nextTick()) perform(early.shift()!)
  } finally {
    catchingUp = false
  }
}

/** Runs the command of a key press, and says whether there was one. */
export function dispatch(event: KeyboardEvent): boolean {
  if (event.isComposing || event.defaultPrevented) return false
  if ((!coming && !catchingUp) || takesText(event.target)) return perform(event)
  event.preventDefault()
  early.push(event)
  return true
}

function perform(event: KeyboardEvent): boolean {
  const name = keyName(event)
  const owner = ownerOf(event.target)
  // Letters are a control's own, as they are a text's: they choose in lists, and type.
  const owned = owner !== 'stage' && owner !== 'button'
  // A focused button is pressed by Space and Enter, as everywhere.
  if (owner === 'button' && (name === 'Space' || name === 'Enter')) return false
  // A stage's own command comes before one of the whole workspace with the same key.
  for (const command of [...registered].reverse()) {
    const { keys, text } = keysOf(command.id)
    if (!text.includes(name) && (owned || !keys.includes(name))) continue
    if (!isReady(command)) continue
    event.preventDefault()
    if (command.up) held.set(event.code, command)
    command.run(event)
    return true
  }
  // Esc leaves whatever has the keys, for the stage.
  if (name === 'Escape' && owner !== 'stage') {
    ;(event.target as HTMLElement).blur()
    return true
  }
  return false
}
