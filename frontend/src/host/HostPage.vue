<script setup lang="ts">
/** The head of every page of the host. */
import { useI18n } from 'vue-i18n'

const { t } = useI18n()
</script>

<template>
  <header>
    <router-link class="name" :to="{ name: 'films' }">
      <svg viewBox="0 0 120 10" aria-hidden="true"><path d="M0 7 Q10 1 20 6 T40 6 T60 4 T80 7 T100 4 T120 6" /></svg>
      {{ t('name') }}
    </router-link>
    <nav>
      <router-link :to="{ name: 'films' }">{{ t('films') }}</router-link>
      <router-link :to="{ name: 'programs' }">{{ t('programs') }}</router-link>
    </nav>
  </header>
  <main><router-view /></main>
</template>

<style scoped>
header {
  display: flex;
  align-items: end;
  justify-content: space-between;
  max-width: 1160px;
  margin: 0 auto;
  padding: 20px 28px 10px;
}
.name {
  display: grid;
  font: 700 22px var(--slab);
  color: var(--deep);
  text-decoration: none;
}
svg {
  width: 118px;
  height: 10px;
  fill: none;
  stroke: var(--lamp);
  stroke-width: 2;
}
nav {
  display: flex;
  gap: 22px;
}
main {
  max-width: 1160px;
  margin: 0 auto;
  padding: 14px 28px 60px;
}
</style>
