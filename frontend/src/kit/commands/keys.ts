/** Keys as they are written down, pressed and printed. */

/** How a key press is written: `Ctrl+Shift+Z`, `ArrowUp`, `?`. */
export function keyName(event: KeyboardEvent): string {
  const parts = []
  // Some keyboards write [ and { with AltGr, which browsers tell as Ctrl and Alt.
  const writes = event.getModifierState?.('AltGraph') ?? false
  if (!writes && (event.ctrlKey || event.metaKey)) parts.push('Ctrl')
  if (!writes && event.altKey) parts.push('Alt')
  const letter = event.key.length === 1 ? event.key.toUpperCase() : event.key
  const key = letter === ' ' ? 'Space' : letter
  // The shift is in the character itself, but for letters and for keys with a name.
  if (event.shiftKey && (key.length > 1 || /[A-Z]/.test(key))) parts.push('Shift')
  return [...parts, key].join('+')
}

const SHOWN: Record<string, string> = {
  ArrowUp: '↑', ArrowDown: '↓', ArrowLeft: '←', ArrowRight: '→', Delete: 'Del', Escape: 'Esc', PageUp: 'PgUp', PageDown: 'PgDn',
}

const partsOf = (key: string) => key.split(/\+(?=.)/)

/** A key as it is printed on a keyboard. */
export function printed(key: string): string {
  return partsOf(key)
    .map((part) => SHOWN[part] ?? part)
    .join(' ')
}

/** True for elements that take typed letters. */
export function takesText(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false
  if (target.isContentEditable || target instanceof HTMLTextAreaElement) return true
  return target instanceof HTMLInputElement && !['checkbox', 'radio', 'range', 'button'].includes(target.type)
}

export type Owner = 'stage' | 'button' | 'text' | 'list' | 'checkbox' | 'slider'

/** Who has the keys while an element has the focus. */
export function ownerOf(target: EventTarget | null): Owner {
  if (!(target instanceof HTMLElement)) return 'stage'
  if (takesText(target)) return 'text'
  if (target instanceof HTMLSelectElement || target.closest('[role=listbox], [role=menu]')) return 'list'
  if (target instanceof HTMLInputElement) return target.type === 'range' ? 'slider' : target.type === 'button' ? 'button' : 'checkbox'
  if (target.closest('[role=slider], [role=separator]')) return 'slider'
  return target.closest('button, a, [role=option], summary') ? 'button' : 'stage'
}

/** Browsers close tabs and open windows by these, and a page never hears of them; Tab goes through the page. */
const KEPT = /^(?:Ctrl\+(?:Shift\+)?[NTW]|Ctrl\+(?:Shift\+)?Tab|(?:Shift\+)?Tab|Alt\+(?:F4|Tab))$/
const MODIFIERS = ['Control', 'Alt', 'Shift', 'Meta', 'AltGraph', 'CapsLock', 'Dead', 'Unidentified', 'Process']
const NAMES = /^(?:Space|Enter|Escape|Backspace|Delete|Insert|Home|End|PageUp|PageDown|Arrow(?:Up|Down|Left|Right)|Tab|F\d{1,2}|\S)$/u

/** True for a key that is pressed together with others only. */
export const isModifier = (event: KeyboardEvent) => MODIFIERS.includes(event.key)

/** True for what can be a key at all, as it is written down. */
export function isKey(key: string): boolean {
  const parts = partsOf(key)
  const name = parts.pop() ?? ''
  const inOrder = ['Ctrl', 'Alt', 'Shift'].filter((modifier) => parts.includes(modifier))
  return NAMES.test(name) && inOrder.join() === parts.join()
}

/** True for a key that the browser itself goes by. */
export const isKept = (key: string) => KEPT.test(key)

/** True for a key that writes, or moves in what is written: while text has the cursor it does that. */
export function isTyped(key: string): boolean {
  if (/^Ctrl\+(?:Shift\+)?(?:[ACVX]|Arrow\w+|Home|End|Backspace|Delete)$/.test(key)) return true
  if (/^(?:Ctrl|Alt)\+/.test(key)) return false
  return !/^(?:Shift\+)?(?:Escape|F\d{1,2})$/.test(key)
}
