/** Commands in words, with the key in force. */
import type { CommandId } from '@/kit/commands/catalogue'
import { printed } from '@/kit/commands/keys'
import { keyOf } from '@/kit/commands/keymap'
import { i18n } from '@/kit/i18n'

export const nameOf = (id: CommandId) => i18n.global.t(`command.${id}`)

/** `Undo · Ctrl Z`, for a tooltip. */
export function titleOf(id: CommandId, inText = false): string {
  const key = keyOf(id, inText)
  return key ? `${nameOf(id)} · ${printed(key)}` : nameOf(id)
}
