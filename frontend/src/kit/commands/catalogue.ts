/**
 * Every command that has a key, whether or not the view it works in is there: where it works, and its keys at first.
 *
 * `keys` work outside of text. `text` work while text has the cursor too, so they are not what is typed.
 */
interface Keys {
  keys?: readonly string[]
  text?: readonly string[]
  /** The command whose keys it has, for what is never to be done at the same time as that. */
  sharesWith?: string
}

const all = <T extends Record<string, Record<string, Keys>>>(areas: T) => areas

const CATALOGUE = all({
  everywhere: {
    play: { keys: ['Space', 'K'], text: ['Ctrl+Space', 'Alt+K'] },
    faster: { keys: ['L'], text: ['Alt+L'] },
    slower: { keys: ['J'], text: ['Alt+J'] },
    'frame-back': { keys: [','], text: ['Alt+,'] },
    'frame-on': { keys: ['.'], text: ['Alt+.'] },
    'back-second': { keys: ['<'] },
    'on-second': { keys: ['>'] },
    'to-start': { keys: ['Home'] },
    'to-end': { keys: ['End'] },
    'go-to': { text: ['Ctrl+G'] },
    'shot-before': { keys: [';'] },
    'shot-next': { keys: ["'"] },
    'next-finding': { keys: ['Shift+E'] },
    'finding-earlier': { keys: ['Shift+W'] },
    'film-larger': { text: ['Alt+=', 'Alt++'] },
    'film-smaller': { text: ['Alt+-'] },
    'rename-project': {},
    follow: { keys: ['F'] },
    undo: { text: ['Ctrl+Z'] },
    redo: { text: ['Ctrl+Shift+Z', 'Ctrl+Y'] },
    search: { text: ['Ctrl+K'] },
    find: { text: ['Ctrl+F'] },
    keys: { keys: ['?'] },
    'bring-in': { text: ['Ctrl+O'] },
    film: { text: ['Ctrl+Shift+O'] },
    'stage-transcribe': { text: ['Alt+1'] },
    'stage-time': { text: ['Alt+2'] },
    'stage-style': { text: ['Alt+3'] },
    'stage-check': { text: ['Alt+4'] },
    'stage-deliver': { text: ['Alt+5'] },
  },
  styling: {
    'style-italic': { text: ['Ctrl+I'] },
    'style-bold': { text: ['Ctrl+B'] },
    'style-underline': { text: ['Ctrl+U'] },
    'choose-colour': { keys: ['R'], text: ['Alt+R'] },
    'choose-place': { keys: ['V'], text: ['Alt+V'] },
    'choose-case': { keys: ['Z'], text: ['Alt+Z'] },
    'choose-speaker': { keys: ['W'], text: ['Alt+W'] },
    'speaker-1': { keys: ['1'] },
    'speaker-2': { keys: ['2'] },
    'speaker-3': { keys: ['3'] },
    'speaker-4': { keys: ['4'] },
    'speaker-5': { keys: ['5'] },
    'speaker-6': { keys: ['6'] },
    'speaker-7': { keys: ['7'] },
    'speaker-8': { keys: ['8'] },
    'speaker-9': { keys: ['9'] },
    'speaker-none': { keys: ['0'] },
  },
  captions: {
    'caption-next': { keys: ['ArrowDown'], text: ['Alt+ArrowDown'] },
    'caption-before': { keys: ['ArrowUp'], text: ['Alt+ArrowUp'] },
    'select-next': { keys: ['Shift+ArrowDown'] },
    'select-before': { keys: ['Shift+ArrowUp'] },
    'select-all': { keys: ['Ctrl+A'] },
    'select-none': { keys: ['Escape'] },
    write: { keys: ['Enter'] },
    'leave-text': { text: ['Escape'], sharesWith: 'select-none' },
    'set-in': { keys: ['I'], text: ['Alt+I'] },
    'set-out': { keys: ['O'], text: ['Alt+O'] },
    'in-earlier': { keys: ['['] },
    'in-later': { keys: [']'] },
    'out-earlier': { keys: ['{'] },
    'out-later': { keys: ['}'] },
    earlier: { keys: ['Ctrl+ArrowUp'] },
    later: { keys: ['Ctrl+ArrowDown'] },
    insert: { keys: ['N'], text: ['Alt+N'] },
    delete: { keys: ['Delete'] },
    split: { keys: ['S'], text: ['Alt+S'] },
    merge: { keys: ['M'], text: ['Alt+M'] },
    'break-lines': { keys: ['D'], text: ['Alt+D'] },
    'join-lines': { keys: ['Shift+D'], text: ['Alt+Shift+D'] },
    hear: { keys: ['H'], text: ['Alt+H'] },
    'follow-spoken': { keys: ['Shift+P'] },
  },
  score: {
    accept: { keys: ['Shift+Enter'], text: ['Alt+Shift+Enter'] },
    'end-and-on': { keys: ['Shift+O'], text: ['Alt+Shift+O'] },
    'hear-first': { keys: ['Y'], text: ['Alt+Y'] },
    'hear-last': { keys: ['U'], text: ['Alt+U'] },
    'hear-before': { keys: ['Shift+Y'] },
    'hear-after': { keys: ['Shift+U'] },
    'hear-loop': { keys: ['Shift+H'] },
    'hear-slow': { keys: ['Ctrl+H'] },
    'insert-before': { keys: ['B'] },
    'insert-after': { keys: ['A'] },
    'insert-gap': { keys: ['G'] },
    'insert-clipboard': { keys: ['Ctrl+V'] },
    duplicate: { keys: ['Ctrl+D'] },
    'merge-before': { keys: ['Shift+M'] },
    'swap-texts': { keys: ['X'] },
    lock: { keys: ['Shift+L'] },
    'shot-change': { keys: ['Shift+S'] },
    'move-all-later': { keys: ['Shift+I'] },
    'type-times': { keys: ['E'], text: ['Alt+E'] },
    'zoom-in': { keys: ['+', '='] },
    'zoom-out': { keys: ['-'] },
    scrolling: { keys: ['Shift+F'] },
    'sound-picture': { keys: ['P'] },
    'sound-larger': { keys: ['Ctrl+ArrowRight'] },
    'sound-smaller': { keys: ['Ctrl+ArrowLeft'] },
    'cue-along': { keys: ['C'], text: ['Alt+C'] },
    retime: { keys: ['T'], text: ['Alt+T'] },
    fit: { keys: ['Shift+T'], text: ['Alt+Shift+T'] },
  },
  panels: {
    'panel-close': { keys: ['Escape'] },
    'sheet-close': { keys: ['Escape'], sharesWith: 'panel-close' },
  },
  cueing: {
    'cue-start': { keys: ['Enter'] },
    'cue-in': { keys: ['F', 'I'] },
    'cue-out': { keys: ['D', 'O'] },
    'cue-back': { keys: ['Backspace'] },
    'cue-stop': { keys: ['Escape'] },
  },
  retiming: {
    'retime-apply': { text: ['Ctrl+Enter'] },
    'retime-anchor': { keys: ['A'], text: ['Alt+A'] },
  },
  fitting: {
    'fit-apply': { keys: ['Ctrl+Enter'] },
    'fit-accept': { keys: ['Enter'] },
    'fit-redo': { keys: ['R'] },
    'fit-hear': { keys: ['H'] },
  },
  looks: {
    'place-left': { keys: ['ArrowLeft'] },
    'place-right': { keys: ['ArrowRight'] },
    'place-up': { keys: ['ArrowUp'] },
    'place-down': { keys: ['ArrowDown'] },
    'place-far-left': { keys: ['Shift+ArrowLeft'] },
    'place-far-right': { keys: ['Shift+ArrowRight'] },
    'place-far-up': { keys: ['Shift+ArrowUp'] },
    'place-far-down': { keys: ['Shift+ArrowDown'] },
    'letters-larger': { keys: ['+', '='] },
    'letters-smaller': { keys: ['-'] },
    'turn-right': { keys: ['R'] },
    'turn-left': { keys: ['Shift+R'] },
    'tilt-back': { keys: ['X'] },
    'tilt-forth': { keys: ['Shift+X'] },
    'tilt-right': { keys: ['Y'] },
    'tilt-left': { keys: ['Shift+Y'] },
    'style-next': { keys: ['Q'] },
    'style-before': { keys: ['Shift+Q'] },
    'style-words': { keys: ['Enter'] },
    'style-words-leave': { text: ['Escape'] },
    'style-guides': { keys: ['G'] },
    window: { keys: ['W'] },
    'shape-box': { keys: ['B'] },
    'shape-rounded': {},
    'shape-ellipse': { keys: ['O'] },
    'shape-file': {},
    moment: { keys: ['M'] },
    'moment-before': { keys: ['Ctrl+ArrowLeft'] },
    'moment-next': { keys: ['Ctrl+ArrowRight'] },
    'pick-colour': { keys: ['C'] },
    'try-fonts': { keys: ['T'] },
    'pass-on': { keys: ['P'] },
    'style-new': { keys: ['N'] },
    'style-copy': { keys: ['Shift+N'] },
    'style-rename': { keys: ['E'] },
    'style-keep': { keys: ['Shift+K'] },
    'style-usual': { keys: ['Shift+U'] },
    'style-of-new': {},
    'style-take-newer': {},
    'style-remove': { keys: ['Shift+Delete'] },
    'styles-out': {},
    'styles-in': {},
  },
  findings: {
    'finding-next': { keys: ['ArrowDown'] },
    'finding-before': { keys: ['ArrowUp'] },
    'finding-go': { keys: ['G'] },
    'finding-hear': { keys: ['H'] },
    'finding-mend': { keys: ['Enter'] },
    'finding-mend-all': { keys: ['Shift+Enter'] },
    'finding-choose': { keys: ['X'] },
    'finding-waive': { keys: ['W'] },
    'edit-spec': {},
  },
  transcribe: {
    'view-words': { keys: ['T'] },
    'view-ear': { keys: ['B'] },
    'view-make': { keys: ['M'] },
    'view-page': { keys: ['C'] },
  },
  transcript: {
    'transcript-write': { keys: ['Enter'] },
    'transcript-leave': { text: ['Escape'] },
    'time-link': { text: ['Alt+T'] },
    'leave-out': { text: ['Alt+X'] },
    'doubtful-next': { keys: ['Q'], text: ['Alt+Q'] },
    'doubtful-accept': { text: ['Ctrl+Enter'] },
    'hear-again': { text: ['Alt+G'] },
    'hear-again-take': { sharesWith: 'hear-again' },
    'words-fit': { text: ['Alt+F'] },
    'voices-listen': { text: ['Alt+V'] },
    'voices-take': { sharesWith: 'voices-listen' },
    'term-next': { text: ['Alt+N'] },
    'term-accept': { text: ['Alt+Enter'] },
  },
  ear: {
    'ear-begin': { keys: ['Enter'] },
    'ear-store': { text: ['Enter'], sharesWith: 'ear-begin' },
    'ear-again': { text: ['Alt+R'] },
    'ear-before': { text: ['Alt+ArrowUp'] },
    'ear-skip': { text: ['Alt+ArrowDown'] },
    'ear-leave': { text: ['Escape'] },
  },
  making: {
    'make-accept': { text: ['Ctrl+Enter'] },
    'make-next': { keys: ['ArrowDown'] },
    'make-before': { keys: ['ArrowUp'] },
    'make-choose': { keys: ['X'] },
    'make-choose-all': { keys: ['Shift+X'] },
    'make-hear': { keys: ['H'] },
  },
  page: {
    'writing-write': { keys: ['Enter'] },
    'writing-leave': { text: ['Escape'] },
    'boundary-make': { text: ['Ctrl+Enter'] },
    'boundary-take': { text: ['Alt+Backspace'] },
    'writing-hear': { keys: ['H'], text: ['Alt+H'] },
  },
  script: {
    'script-take': { text: ['Ctrl+Enter'] },
  },
})

export type Area = keyof typeof CATALOGUE
export type CommandId = { [A in Area]: keyof (typeof CATALOGUE)[A] }[Area] & string

/** The areas whose commands a key is looked for in after an area's own. */
const BEHIND: Record<Area, readonly Area[]> = {
  everywhere: [],
  styling: ['everywhere'],
  captions: ['styling', 'everywhere'],
  score: ['captions', 'styling', 'everywhere'],
  panels: ['score', 'captions', 'styling', 'everywhere'],
  cueing: ['panels', 'score', 'captions', 'styling', 'everywhere'],
  retiming: ['panels', 'score', 'captions', 'styling', 'everywhere'],
  fitting: ['panels', 'score', 'captions', 'styling', 'everywhere'],
  looks: ['captions', 'styling', 'everywhere'],
  findings: ['captions', 'styling', 'everywhere'],
  transcribe: ['everywhere'],
  transcript: ['transcribe', 'styling', 'everywhere'],
  ear: ['transcribe', 'everywhere'],
  making: ['transcribe', 'everywhere'],
  page: ['transcribe', 'styling', 'everywhere'],
  script: ['captions', 'styling', 'everywhere'],
}

export interface Declared {
  id: CommandId
  area: Area
  keys: readonly string[]
  text: readonly string[]
  sharesWith?: CommandId
}

export const AREAS = Object.keys(CATALOGUE) as Area[]

export const DECLARED: ReadonlyMap<CommandId, Declared> = new Map(
  AREAS.flatMap((area) =>
    Object.entries(CATALOGUE[area] as Record<string, Keys>).map(([name, { keys = [], text = [], sharesWith }]) => {
      const id = name as CommandId
      return [id, { id, area, keys, text, sharesWith: sharesWith as CommandId | undefined }]
    }),
  ),
)

/** Whether the commands of one area are asked before those of another that are in sight too. */
export function comesBefore(one: Area, other: Area): boolean {
  return BEHIND[one].includes(other)
}
