/** Every command: its id, its key, and what it does. One table for keys, search and the key sheet. */
import { onScopeDispose, shallowReactive } from 'vue'

export interface Command {
  /** Names it in the locale files, as `command.<id>`. */
  id: string
  /** Default keys such as `Space`, `Ctrl+Z` or `Shift+ArrowUp`. */
  keys: string[]
  run: (event?: KeyboardEvent) => void
  /** When the key is let go that `run` was called for. */
  up?: (event: KeyboardEvent) => void
  enabled?: () => boolean
  /** Works while text has the cursor too, with these keys. */
  textKeys?: string[]
}

const registered = shallowReactive(new Map<string, Command>())

export const commands = registered as ReadonlyMap<string, Command>

/** Adds commands for as long as the component that adds them is there. */
export function useCommands(list: Command[]) {
  for (const command of list) registered.set(command.id, command)
  onScopeDispose(() => {
    for (const command of list) if (registered.get(command.id) === command) registered.delete(command.id)
  })
}

/** How a key press is written: `Ctrl+Shift+Z`, `ArrowUp`, `?`. */
export function keyName(event: KeyboardEvent): string {
  const parts = []
  if (event.ctrlKey || event.metaKey) parts.push('Ctrl')
  if (event.altKey) parts.push('Alt')
  const letter = event.key.length === 1 ? event.key.toUpperCase() : event.key
  const key = letter === ' ' ? 'Space' : letter
  // The shift is in the character itself, but for letters and for keys with a name.
  if (event.shiftKey && (key.length > 1 || /[A-Z]/.test(key))) parts.push('Shift')
  return [...parts, key].join('+')
}

/** True for elements that take typed letters. */
export function takesText(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false
  if (target.isContentEditable || target instanceof HTMLTextAreaElement) return true
  return target instanceof HTMLInputElement && !['checkbox', 'radio', 'range', 'button'].includes(target.type)
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
    const keys = typing ? (command.textKeys ?? []) : [...command.keys, ...(command.textKeys ?? [])]
    if (!keys.includes(name)) continue
    if (command.enabled && !command.enabled()) continue
    event.preventDefault()
    if (command.up) held.set(event.code, command)
    command.run(event)
    return true
  }
  return false
}

const SHOWN: Record<string, string> = {
  ArrowUp: '↑', ArrowDown: '↓', ArrowLeft: '←', ArrowRight: '→', Delete: 'Del', Escape: 'Esc',
}

/** A key as it is printed on a keyboard. */
export function printed(key: string): string {
  return key
    .split(/\+(?=.)/)
    .map((part) => SHOWN[part] ?? part)
    .join(' ')
}
