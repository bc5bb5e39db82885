/** What commands do, for as long as the views are there that do it; their keys are in the catalogue. */
import { onScopeDispose, shallowReactive } from 'vue'

import type { CommandId } from '@/kit/commands/catalogue'
import { keyName, takesText } from '@/kit/commands/keys'
import { keysOf } from '@/kit/commands/keymap'

export interface Command {
  /** Names it in the catalogue, and in the locale files as `command.<id>`. */
  id: CommandId
  run: (event?: KeyboardEvent) => void
  /** When the key is let go that `run` was called for. */
  up?: (event: KeyboardEvent) => void
  enabled?: () => boolean
}

const registered = shallowReactive(new Map<CommandId, Command>())

export const commands = registered as ReadonlyMap<CommandId, Command>

/** Adds commands for as long as the component that adds them is there. */
export function useCommands(list: Command[]) {
  for (const command of list) registered.set(command.id, command)
  onScopeDispose(() => {
    for (const command of list) if (registered.get(command.id) === command) registered.delete(command.id)
  })
}

/** Does what a command does, for a button; nothing where nobody does it now. */
export function run(id: CommandId) {
  const command = registered.get(id)
  if (command && (command.enabled?.() ?? true)) command.run()
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

/** Keys that are pressed until something is there are meant for it, and wait. */
export async function keysWaitFor(arrival: Promise<unknown>) {
  coming++
  try {
    await arrival
  } finally {
    coming--
    while (!coming && early.length) perform(early.shift()!)
  }
}

/** Runs the command of a key press, and says whether there was one. */
export function dispatch(event: KeyboardEvent): boolean {
  if (event.isComposing || event.defaultPrevented) return false
  if (!coming || takesText(event.target)) return perform(event)
  event.preventDefault()
  early.push(event)
  return true
}

function perform(event: KeyboardEvent): boolean {
  const name = keyName(event)
  const typing = takesText(event.target)
  // A focused button is pressed by Space and Enter, as everywhere.
  const pressable = event.target instanceof HTMLElement && event.target.closest('button, a, [role=option], [role=slider]')
  if (pressable && (name === 'Space' || name === 'Enter')) return false
  // A stage's own command comes before one of the whole workspace with the same key.
  for (const command of [...registered.values()].reverse()) {
    const { keys, text } = keysOf(command.id)
    if (!text.includes(name) && (typing || !keys.includes(name))) continue
    if (command.enabled && !command.enabled()) continue
    event.preventDefault()
    if (command.up) held.set(event.code, command)
    command.run(event)
    return true
  }
  return false
}
