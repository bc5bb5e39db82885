<script setup lang="ts">
/** All that can be said of how captions look, and where a change goes. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { run } from '@/kit/commands/commands'
import { titleOf } from '@/kit/commands/titles'
import { useSelection } from '@/score/selectionStore'
import { isShape } from '@/session/captions'
import { useFonts } from '@/session/fonts'
import ChoiceField from '@/stages/style/ChoiceField.vue'
import ColourField from '@/stages/style/ColourField.vue'
import { type Destination, useLooks } from '@/stages/style/looksStore'
import LevelMark from '@/stages/style/LevelMark.vue'
import MomentsField from '@/stages/style/MomentsField.vue'
import MarkField from '@/stages/style/MarkField.vue'
import NumberField from '@/stages/style/NumberField.vue'
import PictureColours from '@/stages/style/PictureColours.vue'
import PlaceGrid from '@/stages/style/PlaceGrid.vue'
import { CASES, ENTRANCES, WEIGHTS } from '@/stages/style/properties'
import PropertyRow from '@/stages/style/PropertyRow.vue'
import { useStyles } from '@/styling/stylesStore'

defineProps<{ rowsDue: boolean }>()

const { t } = useI18n()
const looks = useLooks()
const selection = useSelection()
const styles = useStyles()
const fonts = useFonts()

const options = (values: readonly (string | null)[], prefix: string) => values.map((value) => ({ value, title: t(`style.${prefix}.${value ?? 'none'}`) }))
/** A font that is not here stays what is chosen. */
const fontOptions = computed(() => {
  const here = fonts.families.map(({ name, kind }) => ({ value: name, title: `${name} · ${t(`style.kind.${kind}`)}` }))
  const now = looks.current
  return now?.font_missing ? [{ value: now.look.font!, title: `${now.look.font} · ${t('style.kind.missing')}` }, ...here] : here
})
/** The families that draw what the chosen one has no letters for. */
const standIns = computed(() => (looks.current?.drawn_in ?? []).filter((family) => family !== looks.current?.look.font))
const weights = computed(() => WEIGHTS.map((value) => ({ value, title: t(`style.weight.${value}`) })))
/** Of letters that have no size of large print (WCAG 2.2, 1.4.3). */
const LEAST_CONTRAST = 4.5
const contrast = computed(() => looks.current?.contrast ?? null)
const shape = computed(() => isShape(selection.current))
const speakerStyle = computed(() => styles.styleOfSpeaker(selection.current?.speaker ?? null))

const destinations = computed<{ value: Destination; title: string; possible: boolean }[]>(() => {
  const name = looks.styleName
  return [
    { value: 'words', title: t('style.to.words'), possible: looks.words !== null },
    {
      value: 'caption',
      title: selection.selected.length > 1 ? t('style.to.captions', { n: selection.selected.length }) : t('style.to.caption'),
      possible: selection.selected.length > 0,
    },
    { value: 'speaker', title: selection.current?.speaker ?? t('style.to.speaker'), possible: Boolean(selection.current?.speaker) },
    { value: 'style', title: name ?? t('style.to.style'), possible: Boolean(selection.current) },
  ]
})
const whereTo = computed(() => {
  if (looks.destination === 'words') return t('style.toWords')
  if (looks.destination === 'caption') return t('style.toCaptions', selection.selected.length)
  if (looks.destination === 'speaker') {
    return speakerStyle.value ? t('style.toStyle', { style: speakerStyle.value.name }) : t('style.toNewSpeaker', { speaker: selection.current?.speaker })
  }
  return looks.styleName ? t('style.toStyle', { style: looks.styleName }) : t('style.toNew', { style: t('style.firstName') })
})

function choose(value: Destination) {
  if (value !== 'words') looks.words = null
  looks.wanted = value
}
</script>

<template>
  <section class="panel" :aria-label="t('style.panel')" data-style-panel>
    <header>
      <p class="section-title">{{ t('style.changesGo') }}</p>
      <div class="to" role="radiogroup" :aria-label="t('style.changesGo')">
        <button
          v-for="one in destinations"
          :key="one.value"
          type="button"
          role="radio"
          :aria-checked="looks.destination === one.value"
          :class="{ on: looks.destination === one.value && one.possible }"
          :disabled="!one.possible"
          :title="one.title"
          :data-to="one.value"
          @click="choose(one.value)"
        >
          {{ one.title }}
        </button>
      </div>
      <p class="soft about" data-where-to>{{ selection.current ? whereTo : t('style.chooseCaption') }}</p>
    </header>
    <div v-if="rowsDue && selection.current && looks.current" class="rows">
      <template v-if="!shape">
      <h2>{{ t('style.group.font') }}</h2>
      <PropertyRow :label="t('style.row.family')" :properties="['font']"><ChoiceField property="font" :options="fontOptions" /><v-btn size="small" class="px-1" :title="titleOf('try-fonts')" data-try-fonts @click="run('try-fonts')">{{ t('style.try') }}</v-btn></PropertyRow>
      <p v-if="looks.current.font_missing" class="told" data-font-missing>
        {{ t('style.fontMissing', { font: looks.current.look.font, instead: standIns.join(', ') }) }}
        <button type="button" @click="run('fonts-add')">{{ t('style.addFont') }}</button>
      </p>
      <p v-else-if="standIns.length" class="told soft" data-stand-ins>{{ t('style.standIns', { families: standIns.join(', ') }) }}</p>
      <PropertyRow :label="t('style.row.weight')" :properties="['weight', 'italic']">
        <ChoiceField property="weight" :options="weights" /><MarkField property="italic" />
      </PropertyRow>
      <PropertyRow :label="t('style.row.size')" :properties="['size', 'stretch']"><NumberField property="size" /><NumberField property="stretch" /></PropertyRow>
      <PropertyRow :label="t('style.row.spacing')" :properties="['letter_spacing', 'line_spacing']">
        <NumberField property="letter_spacing" /><NumberField property="line_spacing" />
      </PropertyRow>
      <PropertyRow :label="t('style.row.case')" :properties="['case']"><ChoiceField property="case" :options="options(CASES, 'case')" /></PropertyRow>
      <PropertyRow :label="t('style.row.marks')" :properties="['underline', 'strike']"><MarkField property="underline" /><MarkField property="strike" /></PropertyRow>

      </template>

      <h2>{{ t('style.group.colour') }}</h2>
      <PictureColours />
      <PropertyRow :label="t(shape ? 'style.row.fill' : 'style.row.letters')" :properties="['colour', 'opacity']"><ColourField property="colour" /><NumberField property="opacity" /></PropertyRow>
      <p v-if="!shape" class="contrast" :class="{ low: contrast && contrast.ratio < LEAST_CONTRAST }" data-contrast>
        <span>{{ t('style.row.contrast') }}</span>
        <span v-if="contrast">{{ t(`style.contrast.${contrast.against}`, { ratio: contrast.ratio }) }}<b v-if="contrast.ratio < LEAST_CONTRAST"> · {{ t('style.contrast.low') }}</b></span>
        <span v-else class="soft">{{ t('style.contrast.unknown') }}</span>
      </p>
      <PropertyRow :label="t('style.row.outline')" :properties="['outline', 'outline_softness']">
        <NumberField property="outline" /><NumberField property="outline_softness" />
      </PropertyRow>
      <PropertyRow label="" :properties="['outline_colour', 'outline_opacity']"><ColourField property="outline_colour" /><NumberField property="outline_opacity" /></PropertyRow>
      <PropertyRow :label="t('style.row.shadow')" :properties="['shadow', 'shadow_direction', 'shadow_softness']">
        <NumberField property="shadow" /><NumberField property="shadow_direction" /><NumberField property="shadow_softness" />
      </PropertyRow>
      <PropertyRow label="" :properties="['shadow_colour', 'shadow_opacity']"><ColourField property="shadow_colour" /><NumberField property="shadow_opacity" /></PropertyRow>
      <PropertyRow v-if="!shape" label="" :properties="['depth']"><MarkField property="depth" /></PropertyRow>
      <template v-if="!shape">
      <PropertyRow :label="t('style.row.background')" :properties="['background', 'background_opacity']">
        <ColourField property="background" :none="t('style.none')" /><NumberField property="background_opacity" />
      </PropertyRow>
      <PropertyRow label="" :properties="['background_shape']"><ChoiceField property="background_shape" :options="options(['lines', 'caption'], 'shape')" /></PropertyRow>
      <PropertyRow :label="t('style.row.padding')" :properties="['background_padding']"><NumberField property="background_padding" /></PropertyRow>
      <PropertyRow :label="t('style.row.corners')" :properties="['background_corners']"><NumberField property="background_corners" /></PropertyRow>

      </template>

      <h2>{{ t('style.group.position') }}</h2>
      <PropertyRow v-if="shape" :label="t('style.row.height')" :properties="['size']"><NumberField property="size" /></PropertyRow>
      <PropertyRow :label="t('style.row.anchor')" :properties="['anchor', 'align', 'x', 'y']"><PlaceGrid /></PropertyRow>
      <PropertyRow :label="t('style.row.place')" :properties="['x', 'y']">
        <NumberField property="x" :placeholder="t('style.byMargin')" /><NumberField property="y" :placeholder="t('style.byMargin')" />
      </PropertyRow>
      <PropertyRow v-if="!shape" :label="t('style.row.margins')" :properties="['margin', 'side_margin']"><NumberField property="margin" /><NumberField property="side_margin" /></PropertyRow>
      <PropertyRow :label="t(shape ? 'style.row.across' : 'style.row.width')" :properties="['width']"><NumberField property="width" :placeholder="t('style.byMargin')" /></PropertyRow>
      <PropertyRow v-if="!shape" :label="t('style.row.lines')" :properties="['vertical']"><ChoiceField property="vertical" :options="options([null, 'rl', 'lr'], 'vertical')" /></PropertyRow>
      <PropertyRow :label="t('style.row.turned')" :properties="['turn']"><NumberField property="turn" /></PropertyRow>
      <PropertyRow :label="t('style.row.tilted')" :properties="['tilt_x', 'tilt_y']"><NumberField property="tilt_x" /><NumberField property="tilt_y" /></PropertyRow>

      <PropertyRow :label="t('style.row.layer')" :properties="['layer']"><ChoiceField property="layer" :options="options([null, 'beneath', 'above'], 'layer')" /></PropertyRow>

      <PropertyRow v-if="!shape" :label="t('style.row.window')" :properties="['window', 'window_keeps']">
        <v-btn size="small" class="window" :title="titleOf('window')" data-open-window @click="run('window')">
          {{ looks.current.look.window ? t('style.window.edit') : t('style.window.open') }}
        </v-btn>
        <ChoiceField v-if="looks.current.look.window" property="window_keeps" :options="options(['inside', 'outside'], 'keeps')" />
      </PropertyRow>

      <h2>{{ t('style.group.motion') }}</h2>
      <PropertyRow :label="t('style.row.comes')" :properties="['comes', 'comes_ms']">
        <ChoiceField property="comes" :options="options(ENTRANCES, 'entrance')" /><NumberField property="comes_ms" />
      </PropertyRow>
      <PropertyRow :label="t('style.row.goes')" :properties="['goes', 'goes_ms']">
        <ChoiceField property="goes" :options="options(ENTRANCES, 'exit')" /><NumberField property="goes_ms" />
      </PropertyRow>
      <PropertyRow :label="t('style.row.moments')" :properties="['moments']"><MomentsField /></PropertyRow>
      <p class="legend soft">
        <span v-for="level in ['caption', 'speaker', 'style', 'shipped'] as const" :key="level"><LevelMark :level="level" />{{ t(`style.level.${level}`) }}</span>
      </p>
    </div>
  </section>
</template>

<style scoped>
.panel {
  display: flex;
  flex-direction: column;
  height: 100%;
  min-height: 0;
}
header {
  flex: none;
  padding: 10px 14px 8px;
  border-bottom: 1px solid var(--line);
}
.to {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  margin-top: 6px;
  overflow: hidden;
  border: 1px solid var(--line);
  border-radius: 6px;
}
.to button {
  padding: 5px 4px;
  overflow: hidden;
  font-size: 12.5px;
  font-weight: 600;
  text-overflow: ellipsis;
  white-space: nowrap;
  background: var(--paper);
}
.to button + button {
  border-left: 1px solid var(--line);
}
.to button:disabled {
  color: var(--soft);
  font-weight: 400;
  cursor: default;
}
.to .on {
  color: var(--on-russet);
  background: var(--russet);
}
.about {
  margin: 6px 0 0;
  font-size: 12.5px;
}
.rows {
  flex: 1;
  padding: 2px 8px 14px 14px;
  overflow-y: auto;
}
.told {
  margin: 0 0 4px;
  font-size: 12.5px;
}
.told button {
  color: var(--tide);
  text-decoration: underline;
  text-underline-offset: 2px;
}
h2 {
  display: flex;
  justify-content: space-between;
  margin: 10px 0 3px;
  padding-top: 8px;
  font-size: 12px;
  font-weight: 650;
  color: var(--soft);
  border-top: 1px solid var(--line);
}
h2:first-child {
  border-top: 0;
  margin-top: 0;
}
.contrast {
  display: grid;
  grid-template-columns: 93px 1fr;
  align-items: center;
  gap: 4px;
  min-height: 26px;
  margin: 0;
  font-size: 12.5px;
}
.contrast span:first-child {
  font-size: 13px;
}
.contrast.low b {
  color: var(--heather);
}
.legend span {
  display: inline-flex;
  align-items: center;
  gap: 5px;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin: 12px 0 0;
  font-size: 12px;
}
</style>
