<script setup lang="ts">
import { proxy } from 'comlink'
import { onUnmounted, ref, shallowRef, watch } from 'vue'
import type { LockoutFix, LockoutKind } from '../../../core/check/fixes/lockout-fixes.ts'
import { useCheckStore } from '../../stores/check.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { LongSearch } from '../../workers/long-search.ts'

/** Changes that keep players out of a lock-out: each was tried by searching the plan with it. */
const props = defineProps<{ kind: LockoutKind }>()
const plan = usePlanStore()
const check = useCheckStore()
const fixes = shallowRef<LockoutFix[]>([])
const isLooking = ref(false)
const search = new LongSearch(check.handPlan)
onUnmounted(() => search.end())

watch([() => check.lockouts, () => props.kind], async () => {
  search.end()
  fixes.value = []
  const [records, before] = [plan.records, check.lockouts?.[props.kind]]
  if (!records || before?.result !== 'found') return void (isLooking.value = false)
  isLooking.value = true
  const ended = await search.ask(async (remote, isAsked) => {
    await remote.lockoutFixes(props.kind, before, proxy((fix: LockoutFix) => {
      if (isAsked() && plan.records === records) fixes.value = [...fixes.value, fix]
    }))
    return true
  })
  if (ended) isLooking.value = false
}, { immediate: true })

const sentence = (says: string) => says.charAt(0).toUpperCase() + says.slice(1)
</script>

<template>
  <section v-if="fixes.length || isLooking" class="mends" data-test="lockout fixes">
    <h4>What would keep players out of it <span v-if="isLooking" class="soft">looking …</span></h4>
    <ul>
      <li v-for="fix in fixes" :key="fix.says"><span>{{ sentence(fix.says) }}<span class="soft">{{ fix.remains ? `; another way in remains: ${fix.remains}` : '; nobody comes into it then' }}</span></span> <button class="quiet" :aria-label="`Apply: ${fix.says}`" @click="plan.edit(fix.diff)">Apply</button></li>
    </ul>
  </section>
</template>

<style scoped>
.mends { flex: 1 1 100%; }
h4 { font-size: 12px; margin: 8px 0 2px; }
h4 .soft { font-weight: 400; }
ul { display: grid; gap: 3px; list-style: none; margin: 0; padding: 0; }
li { align-items: baseline; display: grid; font-size: 12px; gap: 8px; grid-template-columns: minmax(0, 1fr) auto; }
.quiet { border-color: var(--line); color: var(--accent); font-size: 12px; font-weight: 600; padding: 1px 8px; }
</style>
