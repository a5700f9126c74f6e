<script setup lang="ts">
import { useDark } from '@vueuse/core'
import ClashDialog from './components/ClashDialog.vue'
import CommandPalette from './components/CommandPalette.vue'
import ShortcutsDialog from './components/ShortcutsDialog.vue'
import TopBar from './components/TopBar.vue'
import { useShortcuts } from './commands.ts'

useDark()
useShortcuts()
</script>

<template>
  <div class="frame">
    <TopBar />
    <main class="view"><RouterView /></main>
    <ClashDialog />
    <CommandPalette />
    <ShortcutsDialog />
  </div>
</template>

<style scoped>
.frame { display: flex; flex-direction: column; height: 100%; }
.view { flex: 1; min-height: 0; }
</style>
