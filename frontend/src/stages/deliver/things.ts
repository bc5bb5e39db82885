/** What can be delivered: as it is at first, and in words. */
import { useI18n } from 'vue-i18n'

import type { FormatView, Schemas } from '@/api/client'
import { languageName } from '@/kit/i18n'
import { framesPerSecond, minutes } from '@/kit/time'
import type { Thing } from '@/session/packingStore'
import { useProject } from '@/session/projectStore'

export const AS_THE_FILM: Schemas['Encoding'] = { codec: 'h264', quality: 'film', sound: 'kept', fast_start: true }

/** Kinds of things besides caption files, in the order in which they are offered. */
export const KINDS = ['burned', 'inside', 'alone', 'otio', 'edl', 'playlist', 'transcript', 'about', 'report'] as const
export type Offered = (typeof KINDS)[number]

/** A thing as it is at first, of a track or, where it takes several, of all. */
export function thingOf(kind: Offered, track: string, all: readonly string[]): Thing {
  switch (kind) {
    case 'burned':
      return { kind, track, encoding: AS_THE_FILM, version: null, above: null }
    case 'alone':
      return { kind, track, form: 'prores', version: null, above: null, height: null, rate: null, passage: null }
    case 'inside':
      return { kind, container: 'mp4', tracks: all.map((id) => ({ track: id, is_default: id === track, is_forced: false })) }
    case 'playlist':
      return { kind, tracks: [...all], segment_seconds: 6 }
    case 'transcript':
      return { kind, form: 'docx' }
    case 'about':
      return { kind, form: 'text' }
    case 'report':
      return { kind, track }
    default:
      return { kind: 'timeline', form: kind, tracks: [track], rate: null, start: '01:00:00:00', findings: true }
  }
}

/** Ids of the tracks that a thing is made of. */
export function tracksOf(thing: Thing): string[] {
  switch (thing.kind) {
    case 'inside':
      return thing.tracks.map(({ track }) => track)
    case 'timeline':
    case 'playlist':
      return [...thing.tracks]
    case 'transcript':
    case 'about':
      return []
    case 'burned':
    case 'alone':
      return [thing.track, ...(thing.above ? [thing.above] : [])]
    default:
      return [thing.track]
  }
}

export function useThings() {
  const { t } = useI18n()
  const project = useProject()
  const trackName = (id: string) => {
    const track = project.project?.tracks.find((one) => one.id === id)
    return track ? [languageName(track.language), track.name].filter(Boolean).join(', ') : t('packing.trackGone')
  }
  const ofRate = (rate: Schemas['FrameRate'] | null | undefined) => (rate ? [t('packing.fps', { rate: framesPerSecond(rate) })] : [])
  const ofPassage = (passage: Schemas['Passage'] | null | undefined) => (passage ? [`${minutes(passage.from_ms)}–${minutes(passage.to_ms)}`] : [])

  /** What a thing is, in a few words: the languages, the kind, and what of it is not as usual. */
  function described(thing: Thing, formats: readonly FormatView[]): string {
    const languages = tracksOf(thing).map(trackName).join(' + ')
    return [languages, ...details(thing, formats)].filter(Boolean).join(' · ')
  }
  function details(thing: Thing, formats: readonly FormatView[]): string[] {
    switch (thing.kind) {
      case 'captions':
        return [formats.find(({ name }) => name === thing.format)?.title ?? thing.format]
      case 'burned': {
        const { codec, height, rate, passage, sound } = thing.encoding
        const size = height ? [t('packing.lines', { height })] : []
        return [t('packing.kind.burned'), t(`packing.codec.${codec ?? 'h264'}`), ...size, ...ofRate(rate), ...ofPassage(passage), ...(sound === 'none' ? [t('packing.noSound')] : [])]
      }
      case 'alone':
        return [t('packing.kind.alone'), t(`packing.form.${thing.form ?? 'prores'}`), ...ofRate(thing.rate), ...ofPassage(thing.passage)]
      case 'inside':
        return [t('packing.kind.inside'), t(`deliver.inside.container.${thing.container ?? 'mp4'}`)]
      case 'timeline':
        return [t(`packing.kind.${thing.form ?? 'otio'}`), ...ofRate(thing.rate), t('packing.from', { time: thing.start ?? '' })]
      case 'playlist':
        return [t('packing.kind.playlist')]
      case 'transcript':
        return [t('packing.kind.transcript'), t(`packing.transcript.${thing.form ?? 'docx'}`)]
      case 'about':
        return [t('packing.kind.about'), t(`packing.aboutForm.${thing.form ?? 'text'}`)]
      case 'report':
        return [t('packing.kind.report')]
    }
  }

  return { trackName, described }
}
