/** The transport by key, everywhere in a project. */
import { usePlayer } from '@/picture/playerStore'
import { useCommands } from '@/kit/commands'

export function useTransportCommands() {
  const player = usePlayer()
  useCommands([
    { id: 'play', keys: ['Space', 'K'], textKeys: ['Ctrl+Space', 'Alt+K'], run: () => player.toggle() },
    { id: 'faster', keys: ['L'], textKeys: ['Alt+L'], run: () => player.shuttle(1) },
    { id: 'slower', keys: ['J'], textKeys: ['Alt+J'], run: () => player.shuttle(-1) },
    { id: 'frame-back', keys: [','], textKeys: ['Alt+,'], run: () => player.stepFrames(-1) },
    { id: 'frame-on', keys: ['.'], textKeys: ['Alt+.'], run: () => player.stepFrames(1) },
    { id: 'back-second', keys: ['<'], run: () => player.place(player.timeMs - 1000) },
    { id: 'on-second', keys: ['>'], run: () => player.place(player.timeMs + 1000) },
    { id: 'to-start', keys: ['Home'], run: () => player.place(0) },
    { id: 'follow', keys: ['F'], run: () => (player.following = true) },
  ])
}
