<script setup lang="ts">
import { useAppTheme } from '@/kit/theme'

useAppTheme()
</script>

<template>
  <v-app>
    <router-view />
  </v-app>
</template>
