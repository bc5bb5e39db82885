/** Who works here: a person, known by the browser, and this window. Windows of one person share their undo. */
import { useStorage } from '@vueuse/core'

/** A name that nothing else has. */
export const newId = () => crypto.randomUUID().replaceAll('-', '').slice(0, 12)

export const person = useStorage('dunlin.person', newId()).value
/** A window that is loaded again is another one: it has seen nothing yet. */
export const windowName = newId()

/** Headers of every request, by which the server knows whose undo an edit belongs to. */
export const identity = { 'Dunlin-Person': person, 'Dunlin-Window': windowName }
