<script setup lang="ts">
/** The styles as specimens, with how many captions are set in each; or the current caption in each family of fonts. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { useTrack } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'
import KeptFile from '@/stages/style/KeptFile.vue'
import { useLooks } from '@/stages/style/looksStore'
import SpecimenGrid from '@/stages/style/SpecimenGrid.vue'
import { useStyles } from '@/styling/stylesStore'

const props = defineProps<{
  /** The style that was pressed last. */
  at: string | null
  /** Whether fonts are tried out. */
  fonts: boolean
}>()
const emit = defineEmits<{ give: [name: string]; menu: [name: string]; drawn: [] }>()

const { t } = useI18n()
const track = useTrack()
const selection = useSelection()
const styles = useStyles()
const looks = useLooks()

/** How many captions of the track are set in each style, by their own name or their speaker's. */
const counts = computed(() => {
  const found = new Map<string, number>()
  const ofSpeakers = new Map(styles.styles.flatMap(({ name, speakers }) => speakers.map((speaker) => [speaker, name] as const)))
  for (const { style, speaker } of track.captions) {
    for (const name of new Set([style ?? styles.usual, ofSpeakers.get(speaker ?? '')])) {
      if (name) found.set(name, (found.get(name) ?? 0) + 1)
    }
  }
  return found
})
const own = (name: string) => styles.byName.get(name)
</script>

<template>
  <section class="shelf" :aria-label="t('style.styles')">
    <template v-if="props.fonts && selection.currentId">
      <header>
        <p class="section-title">{{ t('style.inFonts') }}</p>
        <slot name="fonts" />
      </header>
      <SpecimenGrid :label="t('style.inFonts')" :in-fonts="selection.currentId" :by="looks.current?.look">
        <template #default="{ item: name, picture }">
          <div
            class="cell"
            role="option"
            :class="{ on: looks.current?.look.font === name }"
            :aria-selected="looks.current?.look.font === name"
            :data-font="name"
            @click="looks.settle({ font: name })"
          >
            <i class="picture" :style="picture" />
            <span class="under"><b>{{ name }}</b></span>
          </div>
        </template>
      </SpecimenGrid>
    </template>
    <template v-else>
      <header>
        <p class="section-title">{{ t('style.styles') }}</p>
        <slot />
      </header>
      <p v-if="styles.loaded && !styles.styles.length && !styles.offered.length" class="soft none">{{ t('style.noStyles') }}</p>
      <SpecimenGrid :label="t('style.styles')" :by="[styles.styles, styles.kept]" @drawn="emit('drawn')">
        <template #default="{ item: name, picture }">
          <div
            class="cell"
            role="option"
            :class="{ on: looks.styleName === name, at: props.at === name, offered: !own(name) }"
            :aria-selected="looks.styleName === name"
            :data-style="name"
            :title="own(name) ? t('style.give', { style: name }) : t('style.takeKept', { style: name })"
            @click="emit('give', name)"
            @contextmenu.prevent="emit('menu', name)"
          >
            <i class="picture" :style="picture" />
            <span class="under">
              <svg v-if="own(name)?.kept ?? true" viewBox="0 0 10 12" class="mark" role="img" :aria-label="t('style.keptMark')"><path d="M1 0h8v12L5 8.500 1 12z" /></svg>
              <b>{{ name }}</b>
              <small v-if="own(name)?.is_older" class="older">{{ t('style.newer') }}</small>
              <small v-else-if="styles.usual === name">{{ t('style.usual') }}</small>
              <small v-if="own(name)" class="count" :title="t('style.used', counts.get(name) ?? 0)">{{ counts.get(name) ?? 0 }}</small>
            </span>
          </div>
        </template>
      </SpecimenGrid>
      <KeptFile />
    </template>
  </section>
</template>

<style scoped>
.shelf {
  padding: 10px 16px 16px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  margin-bottom: 8px;
}
header .section-title {
  margin-right: auto;
}
.cell {
  height: 100%;
  overflow: hidden;
  cursor: default;
  background: var(--paper);
  border-radius: 6px;
  outline: 1px solid var(--line);
}
.cell.on {
  outline: 2px solid var(--russet);
}
.cell.at {
  outline: 2px solid var(--tide);
  outline-offset: 2px;
}
.picture {
  display: block;
  background: #3a4a50 center / cover;
}
.under {
  display: flex;
  align-items: center;
  gap: 5px;
  height: 26px;
  padding: 0 7px;
  font-size: 12.5px;
}
.under b {
  flex: 1;
  overflow: hidden;
  font-weight: 500;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.under small {
  font-size: 11.5px;
  color: var(--soft);
}
.under .count {
  font-family: var(--time-font);
}
.under .older {
  color: var(--straw);
}
.mark {
  flex: none;
  width: 8px;
  height: 10px;
  fill: var(--tide);
}
.none {
  margin: 0;
}
</style>
