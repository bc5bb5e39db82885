/** Styles of captions and of words selected in them, by key, wherever captions are in sight. */
import { useRoute } from 'vue-router'

import { type Command, useCommands } from '@/kit/commands/commands'
import { SPEAKER_KEYS } from '@/kit/commands/speakerKeys'
import { useProject } from '@/session/projectStore'
import { useChoices } from '@/styling/choices'
import { type Chooser, useStyling } from '@/styling/stylingStore'

export function useStylingCommands() {
  const route = useRoute()
  const styling = useStyling()
  const project = useProject()
  const { speak } = useChoices()

  const inSight = () => (route.name !== 'transcribe' || route.query.view === 'page') && styling.current() !== null
  const of = (list: Omit<Command, 'why'>[]): Command[] =>
    list.map((command) => ({ ...command, enabled: () => inSight() && (command.enabled?.() ?? true), why: 'caption' }))

  useCommands(
    of([
      ...(['italic', 'bold', 'underline'] as const).map((style) => ({ id: `style-${style}` as const, run: () => void styling.toggle(style) })),
      ...(['colour', 'place', 'case', 'speaker'] as Chooser[]).map((which) => ({ id: `choose-${which}` as const, run: () => styling.choose(which) })),
      ...SPEAKER_KEYS.map((id, index) => ({
        id,
        run: () => void speak(project.project!.speakers[index]!.name),
        enabled: () => index < (project.project?.speakers.length ?? 0),
      })),
      { id: 'speaker-none', run: () => void speak(null) },
    ]),
  )
}
