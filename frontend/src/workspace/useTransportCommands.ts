/** The transport by key, everywhere in a project: playing, and going to a place of the film. */
import { useI18n } from 'vue-i18n'

import { useCommands } from '@/kit/commands/commands'
import { firstIndex } from '@/kit/ordered'
import { usePlayer } from '@/picture/playerStore'
import { openFindings } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'

export function useTransportCommands() {
  const player = usePlayer()
  const project = useProject()
  const track = useTrack()
  const selection = useSelection()
  const { t } = useI18n()

  const shots = () => project.project?.shots ?? []

  function goToShot(direction: 1 | -1) {
    const at = Math.round(player.timeMs)
    const place = direction > 0 ? shots()[firstIndex(shots(), (ms) => ms, at + 1)] : shots()[firstIndex(shots(), (ms) => ms, at) - 1]
    if (place === undefined) track.refusal = t('refusal.noShot')
    else player.place(place)
  }

  /** The next caption that something is found in, from the current one or the playhead; from the end, the first. */
  function goToFinding(direction: 1 | -1) {
    const found = track.captions.filter((caption) => openFindings(caption).length)
    const at = selection.current?.in_ms ?? player.timeMs
    const ahead = direction > 0 ? found.find((caption) => caption.in_ms > at) : found.findLast((caption) => caption.in_ms < at)
    const next = ahead ?? (direction > 0 ? found[0] : found.at(-1))
    if (!next) return
    selection.only(next.id)
    player.place(next.in_ms)
  }

  const hasFilm = () => project.hasFilm
  const hasShots = () => shots().length > 0
  const hasFindings = () => track.findings > 0
  useCommands([
    { id: 'play', run: () => player.toggle(), enabled: hasFilm, why: 'film' },
    { id: 'faster', run: () => player.shuttle(1), enabled: hasFilm, why: 'film' },
    { id: 'slower', run: () => player.shuttle(-1), enabled: hasFilm, why: 'film' },
    { id: 'frame-back', run: () => player.stepFrames(-1) },
    { id: 'frame-on', run: () => player.stepFrames(1) },
    { id: 'back-second', run: () => player.place(player.timeMs - 1000) },
    { id: 'on-second', run: () => player.place(player.timeMs + 1000) },
    { id: 'to-start', run: () => player.place(0) },
    { id: 'to-end', run: () => player.place(project.durationMs) },
    { id: 'shot-next', run: () => goToShot(1), enabled: hasShots, why: 'shots' },
    { id: 'shot-before', run: () => goToShot(-1), enabled: hasShots, why: 'shots' },
    { id: 'next-finding', run: () => goToFinding(1), enabled: hasFindings, why: 'findings' },
    { id: 'finding-earlier', run: () => goToFinding(-1), enabled: hasFindings, why: 'findings' },
    { id: 'follow', run: () => (player.following = true) },
  ])
}
