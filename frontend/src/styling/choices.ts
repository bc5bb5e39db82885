/** What can be chosen for captions by hand: colours, places, cases, speakers, each with the digit that takes it. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Caption } from '@/session/captions'
import { allBetween, changedBetween } from '@/session/spans'
import { useProject } from '@/session/projectStore'
import { type Chooser, useStyling } from '@/styling/stylingStore'

export interface Choice {
  digit: string
  name: string
  colour?: string
  on: boolean
  take: () => Promise<void>
}

/** The colours of teletext (ETSI EN 300 706, 12.2), in its order but for white, which comes first. */
const COLOURS = {
  white: '#FFFFFF', yellow: '#FFFF00', cyan: '#00FFFF', green: '#00FF00',
  magenta: '#FF00FF', red: '#FF0000', blue: '#0000FF', black: '#000000',
} as const

/** Places as a number pad has its digits. */
const PLACES = {
  '7': ['top', 'left'], '8': ['top', 'center'], '9': ['top', 'right'],
  '4': ['middle', 'left'], '5': ['middle', 'center'], '6': ['middle', 'right'],
  '1': ['bottom', 'left'], '2': ['bottom', 'center'], '3': ['bottom', 'right'],
} as const

type Placement = NonNullable<Caption['placement']>
const usual: Placement = { anchor: 'bottom', align: 'center', x: null, y: null, width: null, vertical: null }

export function useChoices() {
  const { t } = useI18n()
  const styling = useStyling()
  const project = useProject()

  const all = (is: (caption: Caption) => boolean) => styling.styled.length > 0 && styling.styled.every(is)
  const WHOLE = { from: 0, to: Infinity }
  const place = (values: Partial<Placement>) =>
    styling.change((caption) => ({ placement: { ...usual, ...caption.placement, ...values } }))

  const colours = computed<Choice[]>(() => [
    ...Object.entries(COLOURS).map(([name, colour], index) => ({
      digit: String(index + 1),
      name: t(`styling.colour.${name}`),
      colour,
      on: all((caption) => allBetween(caption.spans, WHOLE, (span) => span.colour?.toUpperCase() === colour)),
      take: () => styling.style({ colour }),
    })),
    {
      digit: '0',
      name: t('styling.colour.own'),
      on: all((caption) => caption.spans.every((span) => !span.colour)),
      take: () => styling.style({ colour: null }),
    },
  ])

  const places = computed<Choice[]>(() => [
    ...['7', '8', '9', '4', '5', '6', '1', '2', '3'].map((digit) => {
      const [anchor, align] = PLACES[digit as keyof typeof PLACES]
      return {
        digit,
        name: t(`styling.place.${anchor}-${align}`),
        on: all(({ placement }) => placement?.anchor === anchor && placement.align === align && placement.x === null && placement.y === null),
        take: () => place({ anchor, align, x: null, y: null }),
      }
    }),
    { digit: '0', name: t('styling.place.own'), on: all(({ placement }) => !placement), take: () => styling.change(() => ({ placement: null })) },
  ])

  const cases = computed<Choice[]>(() => {
    const language = project.trackInfo?.language
    if (styling.ofWords)
      return [
        { digit: '1', name: t('styling.case.upper'), on: false, take: () => styling.letters((text) => text.toLocaleUpperCase(language)) },
        { digit: '2', name: t('styling.case.lower'), on: false, take: () => styling.letters((text) => text.toLocaleLowerCase(language)) },
      ]
    return (['written', 'upper', 'lower', 'sentence'] as const).map((value, index) => ({
      digit: String(index),
      name: t(`styling.case.${value}`),
      on: all((caption) => (caption.case ?? 'written') === value),
      take: () => styling.change(() => ({ case: value })),
    }))
  })

  const speak = (name: string | null) =>
    styling.change((caption, range, ofWords) => {
      if (!ofWords) return { speaker: name }
      const voice = name === caption.speaker ? null : name
      return { spans: changedBetween(caption.spans, range, () => ({ voice })) }
    })

  const speakers = computed<Choice[]>(() => [
    ...(project.project?.speakers ?? []).map(({ name, colour }, index) => ({
      digit: index < 9 ? String(index + 1) : '',
      name,
      colour,
      on: all((caption) => caption.speaker === name),
      take: () => speak(name),
    })),
    { digit: '0', name: t('styling.nobody'), on: all((caption) => !caption.speaker), take: () => speak(null) },
  ])

  const choices = computed<Record<Chooser, Choice[]>>(() => ({
    colour: colours.value, place: places.value, case: cases.value, speaker: speakers.value,
  }))
  return { choices, place, speak }
}
