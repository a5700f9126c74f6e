<script setup lang="ts">
import { useDark, useToggle } from '@vueuse/core'
import { ElDropdown, ElDropdownItem, ElDropdownMenu } from 'element-plus'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { paletteOpen } from '../commands.ts'
import { countText } from '../../core/view/numbers.ts'
import { useCheckStore } from '../stores/check.ts'
import { usePlanStore } from '../stores/plan.ts'
import { views } from '../views/plan/views.ts'
import EditState from './EditState.vue'
import { useFileActions } from './file-actions.ts'
import LastTurned from './LastTurned.vue'

const plan = usePlanStore()
const check = useCheckStore()
const redWalks = computed(() => [...check.walks.values()].filter(({ holds }) => !holds).length)
const router = useRouter()
const dark = useDark()
const toggleDark = useToggle(dark)
const { exportPlan, importPlan, renamePlan, copyPlan } = useFileActions()

/** Null: no plan is open. */
const name = computed(() => plan.records?.head.name ?? null)
const actions: Record<string, () => void> = { plans: () => void router.push('/'), rename: renamePlan, copy: copyPlan, import: importPlan, export: exportPlan }
</script>

<template>
  <header class="bar">
    <RouterLink to="/" class="brand">Tundrift</RouterLink>
    <ElDropdown v-if="name !== null" trigger="click" @command="(action: string) => actions[action]?.()">
      <button class="quiet plan" title="Plan menu">{{ name }} ▾</button>
      <template #dropdown>
        <ElDropdownMenu>
          <ElDropdownItem command="plans">Other plans …</ElDropdownItem>
          <ElDropdownItem command="rename">Rename …</ElDropdownItem>
          <ElDropdownItem command="copy">Make a copy</ElDropdownItem>
          <ElDropdownItem command="import" divided>Import a plan file …</ElDropdownItem>
          <ElDropdownItem command="export">Export as a plan file</ElDropdownItem>
        </ElDropdownMenu>
      </template>
    </ElDropdown>
    <nav v-if="name !== null" class="views" aria-label="Views">
      <RouterLink v-for="view in views" :key="view.name" :to="{ name: view.name, params: { id: plan.id } }" exact-active-class="here" :title="`${view.word} (${view.key})`">{{ view.word }}<b v-if="view.name === 'walk' && redWalks" class="red" :title="`${countText(redWalks, 'walk')} the plan no longer bears out`" data-test="red walks">{{ redWalks }}</b></RouterLink>
    </nav>
    <span class="space" />
    <LastTurned v-if="name !== null" />
    <EditState v-if="name !== null" />
    <button class="quiet" title="Commands and find (Ctrl+K)" @click="paletteOpen = true">Commands <kbd>Ctrl K</kbd></button>
    <button class="quiet" :aria-label="dark ? 'Light theme' : 'Dark theme'" :title="dark ? 'Light theme' : 'Dark theme'" @click="toggleDark()">{{ dark ? '☀' : '☾' }}</button>
  </header>
</template>

<style scoped>
.bar { align-items: center; background: var(--bar); color: var(--bar-ink); display: flex; flex: none; gap: 10px; height: 44px; padding: 0 14px; }
.brand { color: inherit; font-size: 16px; font-weight: 700; margin-right: 10px; text-decoration: none; }
.plan { color: var(--bar-ink); font-size: 14px; }
.views { align-self: stretch; display: flex; margin-left: 24px; }
.views a { align-items: center; border-bottom: 3px solid transparent; border-top: 3px solid transparent; color: var(--bar-soft); display: flex; font-weight: 600; margin-right: 8px; padding: 0 8px; text-decoration: none; }
.red { background: #c2412d; border-radius: 8px; color: #fff; font-size: 11px; line-height: 16px; margin-left: 5px; min-width: 16px; padding: 0 4px; text-align: center; }
.views a:hover { color: var(--bar-ink); }
.views a.here { border-bottom-color: #e0b25a; color: var(--bar-ink); }
.space { flex: 1; }
kbd { color: var(--bar-soft); font-family: var(--mono); font-size: 11px; margin-left: 4px; }
</style>
