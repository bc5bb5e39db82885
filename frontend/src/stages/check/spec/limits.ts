/** The limits of a spec as the editor shows them: in sections, each with its kind and its rule. */
import type { Spec } from '@/api/client'
import type { FrameRate } from '@/kit/time'

export type LimitName = Exclude<keyof Spec, 'id' | 'name' | 'description' | 'advice' | 'by_language'>

interface Common {
  name: LimitName
  /** The rule it belongs to, whose findings it makes. */
  rule?: string
}
export interface NumberLimit extends Common {
  kind: 'number'
  /** What it is when it is switched on. */
  usual: number
  step?: number
  unit: string
  /** The measure whose values are drawn beside it. */
  measure?: string
  /** What breaks it: values above, or below. */
  breaks?: 'above' | 'below'
}
export interface ChoiceLimit extends Common {
  kind: 'choice'
  choices: string[]
}
export interface SwitchLimit extends Common {
  kind: 'switch'
  /** Off is what is asked for: overlap that is not allowed. */
  inverse?: boolean
}
export interface TextLimit extends Common {
  kind: 'text'
  /** What it is when it is switched on. */
  usual?: string
}
/** Characters and milliseconds, as `20: 1.5 s, 40: 2.5 s`. */
export interface PairsLimit extends Common {
  kind: 'pairs'
}
export type Limit = NumberLimit | ChoiceLimit | SwitchLimit | TextLimit | PairsLimit

export const SECTIONS: { name: string; limits: Limit[] }[] = [
  {
    name: 'lines',
    limits: [
      { name: 'characters_per_line', kind: 'number', usual: 42, unit: 'characters', rule: 'line-length', measure: 'characters_per_line', breaks: 'above' },
      { name: 'wide_characters_count_two', kind: 'switch' },
      { name: 'lines', kind: 'number', usual: 2, unit: 'lines', rule: 'lines', measure: 'lines', breaks: 'above' },
      { name: 'safe_area', kind: 'number', usual: 0.9, step: 0.01, unit: 'part', rule: 'safe-area', measure: 'safe_area', breaks: 'above' },
      { name: 'no_wrapping', kind: 'switch', rule: 'safe-area' },
      { name: 'kept_from_edges', kind: 'number', usual: 0.05, step: 0.01, unit: 'part', rule: 'outside' },
      { name: 'no_covering', kind: 'switch', rule: 'covering' },
      { name: 'least_letter_size', kind: 'number', usual: 0.05, step: 0.005, unit: 'height', rule: 'letter-size' },
      { name: 'least_contrast', kind: 'number', usual: 4.5, step: 0.5, unit: 'ratio', rule: 'contrast' },
      { name: 'line_balance', kind: 'number', usual: 50, unit: 'percent', rule: 'line-balance', measure: 'line_balance', breaks: 'below' },
      { name: 'line_shape', kind: 'choice', choices: ['top-heavy', 'bottom-heavy'], rule: 'line-shape' },
      { name: 'no_single_last_word', kind: 'switch', rule: 'last-word' },
    ],
  },
  {
    name: 'speed',
    limits: [
      { name: 'reading_speed', kind: 'number', usual: 17, step: 0.5, unit: 'cps', rule: 'reading-speed', measure: 'reading_speed', breaks: 'above' },
      { name: 'spaces_count', kind: 'switch' },
      { name: 'punctuation_counts', kind: 'switch' },
      { name: 'children_reading_speed', kind: 'number', usual: 13, step: 0.5, unit: 'cps' },
      { name: 'for_children', kind: 'switch' },
      { name: 'words_per_minute', kind: 'number', usual: 180, step: 5, unit: 'wpm', rule: 'words-per-minute', measure: 'words_per_minute', breaks: 'above' },
    ],
  },
  {
    name: 'times',
    limits: [
      { name: 'least_duration_ms', kind: 'number', usual: 1000, step: 10, unit: 'ms', rule: 'least-duration', measure: 'duration_ms', breaks: 'below' },
      { name: 'least_duration_by_length', kind: 'pairs', rule: 'least-duration' },
      { name: 'greatest_duration_ms', kind: 'number', usual: 7000, step: 100, unit: 'ms', rule: 'greatest-duration', measure: 'duration_ms', breaks: 'above' },
      { name: 'least_gap_frames', kind: 'number', usual: 2, unit: 'frames', rule: 'gap', measure: 'gap_frames', breaks: 'below' },
      { name: 'least_gap_ms', kind: 'number', usual: 80, step: 10, unit: 'ms', rule: 'gap', measure: 'gap_ms', breaks: 'below' },
      { name: 'close_gaps_below_ms', kind: 'number', usual: 500, step: 10, unit: 'ms', rule: 'gap-to-close', measure: 'gap_ms', breaks: 'below' },
      { name: 'overlap_allowed', kind: 'switch', inverse: true, rule: 'overlap' },
      { name: 'shot_change_frames', kind: 'number', usual: 7, unit: 'frames', rule: 'shot-change', measure: 'shot_change_frames', breaks: 'below' },
      { name: 'shot_change_before_frames', kind: 'number', usual: 12, unit: 'frames', rule: 'shot-change' },
      { name: 'shot_change_after_frames', kind: 'number', usual: 12, unit: 'frames', rule: 'shot-change' },
      { name: 'no_caption_across_shots', kind: 'switch', rule: 'across-shot' },
      { name: 'first_caption_ms', kind: 'number', usual: 2000, step: 100, unit: 'ms', rule: 'first-caption' },
      { name: 'captions_per_minute', kind: 'number', usual: 20, unit: 'captions', rule: 'density' },
      { name: 'speech_without_caption_ms', kind: 'number', usual: 3000, step: 100, unit: 'ms', rule: 'uncaptioned' },
      { name: 'within_film', kind: 'switch', rule: 'film-end' },
      { name: 'captions_per_sentence', kind: 'number', usual: 3, unit: 'captions', rule: 'sentence', measure: 'captions_per_sentence', breaks: 'above' },
    ],
  },
  {
    name: 'writing',
    limits: [
      { name: 'dash', kind: 'choice', choices: ['-', '- ', '–', '– ', '—', '— '], rule: 'dash' },
      { name: 'dash_of_second_only', kind: 'switch', rule: 'dash-second' },
      { name: 'ellipsis', kind: 'choice', choices: ['…', '...'], rule: 'ellipsis' },
      { name: 'ellipsis_from_pause_ms', kind: 'number', usual: 2000, step: 100, unit: 'ms', rule: 'continuation' },
      { name: 'quotes', kind: 'choice', choices: ['straight', 'curly', 'guillemets', 'low-high'], rule: 'quotes' },
      { name: 'nested_quotes_single', kind: 'switch', rule: 'nested-quotes' },
      { name: 'italics', kind: 'choice', choices: ['none', 'whole-lines'], rule: 'italics' },
      { name: 'sound_brackets', kind: 'choice', choices: ['square', 'round'], rule: 'sound-brackets' },
      { name: 'sound_case', kind: 'choice', choices: ['upper', 'lower', 'sentence'], rule: 'sound-case' },
      { name: 'speaker_labels', kind: 'choice', choices: ['none', 'upper', 'as-written'], rule: 'speaker-labels' },
      { name: 'numbers_in_words_below', kind: 'number', usual: 11, unit: 'number', rule: 'numbers' },
      { name: 'unit_space', kind: 'switch', rule: 'units' },
      { name: 'number_format', kind: 'switch', rule: 'number-format' },
      { name: 'no_double_spaces', kind: 'switch', rule: 'double-space' },
      { name: 'no_space_before_marks', kind: 'switch', rule: 'space-before-mark' },
    ],
  },
  {
    name: 'characters',
    limits: [
      { name: 'characters', kind: 'choice', choices: ['ascii', 'latin-1', 'ebu-stl', 'latin', 'cyrillic', 'greek'], rule: 'characters' },
      { name: 'forbidden_characters', kind: 'text', rule: 'characters' },
      { name: 'language', kind: 'switch', rule: 'language' },
      { name: 'spelled', kind: 'switch', rule: 'spelling' },
      { name: 'no_markup', kind: 'switch', rule: 'markup' },
      { name: 'no_empty', kind: 'switch', rule: 'empty' },
      { name: 'no_undrawable', kind: 'switch', rule: 'drawable' },
    ],
  },
  {
    name: 'translation',
    limits: [
      { name: 'source_current', kind: 'switch', rule: 'source-changed' },
      { name: 'no_drafts', kind: 'switch', rule: 'draft' },
      { name: 'no_untranslated', kind: 'switch', rule: 'untranslated' },
      { name: 'numbers_kept', kind: 'switch', rule: 'number-differs' },
      { name: 'names_kept', kind: 'switch', rule: 'name-missing' },
      { name: 'terms_kept', kind: 'switch', rule: 'term' },
      { name: 'end_marks_kept', kind: 'switch', rule: 'end-mark' },
      { name: 'speakers_kept', kind: 'switch', rule: 'speakers-differ' },
      { name: 'translation_least_length', kind: 'number', usual: 30, unit: 'percent', rule: 'translation-length' },
      { name: 'translation_greatest_length', kind: 'number', usual: 250, unit: 'percent', rule: 'translation-length' },
      { name: 'translated_alike', kind: 'switch', rule: 'two-ways' },
    ],
  },
  {
    name: 'file',
    limits: [
      {
        name: 'file_format', kind: 'choice',
        choices: ['srt', 'webvtt', 'ass', 'ebu-tt-d', 'imsc', 'stl', 'stl-teletext', 'lrc', 'csv', 'tsv', 'text', 'json'],
      },
      { name: 'file_name', kind: 'text', usual: '{title}.{language}' },
      { name: 'file_encoding', kind: 'choice', choices: ['utf-8', 'utf-16-le', 'utf-16-be', 'windows-1252', 'iso-8859-1', 'iso-8859-15'] },
      { name: 'file_byte_order_mark', kind: 'switch' },
      { name: 'file_line_ends', kind: 'choice', choices: ['lf', 'crlf'] },
      { name: 'programme_start', kind: 'text', usual: '10:00:00:00' },
    ],
  },
]

const NUMBERS = SECTIONS.flatMap((section) => section.limits).filter((limit) => limit.kind === 'number')

/** The limit that a rule measures by, where its values can be drawn. */
export const measuredLimit = (rule: string | null) => NUMBERS.find((limit) => limit.rule === rule && limit.measure)

/** Pairs as they are typed; null when they are none. */
export function pairsTyped(text: string, rate: FrameRate): [number, number][] | null {
  const pairs = text.split(/[;,]\s*(?=\d+\s*:)/).map((part) => {
    const [count, time] = part.split(':').map((piece) => piece.trim())
    const ms = limitTyped(time ?? '', 'ms', rate)
    return /^\d+$/.test(count ?? '') && ms !== null ? ([Number(count), ms] as [number, number]) : null
  })
  return pairs.every((pair) => pair !== null) ? pairs : null
}

export const pairsShown = (pairs: readonly (readonly number[])[]) => pairs.map(([count, ms]) => `${count}: ${ms! / 1000} s`).join(', ')

const AMOUNT = /^(\d+(?:[.,]\d+)?)(?:\s*\/\s*(\d+))?\s*(ms|s|f|frames?)?$/i

/**
 * What was typed for a limit, in its own unit; null where it is no such number. Durations may be typed in milliseconds,
 * seconds, fractions of them (`5/6 s`), or frames of the film.
 */
export function limitTyped(text: string, unit: string, rate: FrameRate): number | null {
  const match = AMOUNT.exec(text.trim())
  if (!match) return null
  const value = Number(match[1]!.replace(',', '.')) / Number(match[2] ?? 1)
  const typedIn = match[3]?.toLowerCase() ?? (match[2] && unit === 'ms' ? 's' : unit)
  if (!Number.isFinite(value) || (match[3] && unit !== 'ms' && unit !== 'frames')) return null
  if (unit !== 'ms' && unit !== 'frames') return value
  const frameMs = (1000 * rate.denominator) / rate.numerator
  const ms = typedIn === 's' ? value * 1000 : typedIn.startsWith('f') ? value * frameMs : value
  if (unit === 'ms') return Math.floor(ms + 1e-6)
  return typedIn.startsWith('f') ? Math.round(value) : Math.round(ms / frameMs)
}
