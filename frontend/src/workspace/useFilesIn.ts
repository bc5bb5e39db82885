/** Files that come into an open project: a film, captions or a script, each to where it is looked at. */
import { sortedByKind } from '@/api/fileKinds'
import { goTo } from '@/router'
import { useBringIn } from '@/stages/bring-in/bringInStore'
import { useScript } from '@/stages/transcribe/script/scriptStore'
import { useFilm } from '@/workspace/film/filmStore'

export function useFilesIn(): (files: File[]) => Promise<void> {
  const film = useFilm()
  const bringIn = useBringIn()
  const script = useScript()

  return async (files) => {
    const { films, captions, scripts } = await sortedByKind(files)
    if (films[0]) film.offer(films[0])
    if (captions.length) {
      bringIn.choose(captions)
      await goTo('bring-in')
    } else if (scripts[0]) {
      script.file = scripts[0]
      await goTo('script')
    }
  }
}
