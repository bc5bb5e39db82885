<script setup lang="ts">
import { useAppTheme } from '@/shared/theme'

useAppTheme()
</script>

<template>
  <v-app>
    <router-view />
  </v-app>
</template>
