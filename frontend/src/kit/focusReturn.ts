/** The focus goes back to where it was when what is shown for a while is closed. */
import { onBeforeUnmount, onMounted } from 'vue'

/** @param first gives the focus to where one begins, once it is shown */
export function useFocusReturn(first: () => void) {
  let before: Element | null = null
  onMounted(() => {
    before = document.activeElement
    first()
  })
  onBeforeUnmount(() => (before as HTMLElement | null)?.focus?.({ preventScroll: true }))
}
