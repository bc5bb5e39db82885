/** The transport by key, everywhere in a project. */
import { usePlayer } from '@/picture/playerStore'
import { useCommands } from '@/kit/commands/commands'

export function useTransportCommands() {
  const player = usePlayer()
  useCommands([
    { id: 'play', run: () => player.toggle() },
    { id: 'faster', run: () => player.shuttle(1) },
    { id: 'slower', run: () => player.shuttle(-1) },
    { id: 'frame-back', run: () => player.stepFrames(-1) },
    { id: 'frame-on', run: () => player.stepFrames(1) },
    { id: 'back-second', run: () => player.place(player.timeMs - 1000) },
    { id: 'on-second', run: () => player.place(player.timeMs + 1000) },
    { id: 'to-start', run: () => player.place(0) },
    { id: 'follow', run: () => (player.following = true) },
  ])
}
