/** A key being set: which command and which of its keys, what was pressed, and what stands against it. */
import { useEventListener } from '@vueuse/core'
import { computed, ref } from 'vue'

import type { CommandId } from '@/kit/commands/catalogue'
import { giveKey, type Slot, takeKey, takenFrom, unfit } from '@/kit/commands/keymap'
import { isModifier, keyName } from '@/kit/commands/keys'

export interface Wanted {
  command: CommandId
  slot: Slot
  /** The key that the new one takes the place of; none where one is added. */
  instead?: string
}

export function useKeySetting(done: () => void) {
  const wanted = ref<Wanted | null>(null)
  const pressed = ref<string | null>(null)

  const wrong = computed(() => (wanted.value && pressed.value ? unfit(pressed.value, wanted.value.slot) : null))
  const others = computed(() =>
    wanted.value && pressed.value && !wrong.value ? takenFrom(wanted.value.command, pressed.value) : [],
  )

  function begin(what: Wanted) {
    wanted.value = what
    pressed.value = null
  }

  function leave() {
    wanted.value = null
    pressed.value = null
    done()
  }

  function give() {
    const { command, slot, instead } = wanted.value!
    giveKey(command, pressed.value!, slot, instead)
    leave()
  }

  function remove() {
    const { command, instead } = wanted.value!
    if (instead) takeKey(command, instead)
    leave()
  }

  // Before anything else on the page: the key is to be named, not to do something.
  useEventListener(
    window,
    'keydown',
    (event) => {
      if (!wanted.value || isModifier(event)) return
      // The buttons of the question are gone through by Tab, and pressed, as everywhere.
      const asked = event.target instanceof HTMLElement && event.target.closest('[data-key-question]')
      const key = keyName(event)
      if (key === 'Tab' || key === 'Shift+Tab' || (asked && (key === 'Enter' || key === 'Space'))) return
      event.preventDefault()
      event.stopImmediatePropagation()
      if (key === 'Escape') return leave()
      pressed.value = key
      if (!wrong.value && !others.value.length) give()
    },
    { capture: true },
  )

  return { wanted, pressed, wrong, others, begin, leave, give, remove }
}
