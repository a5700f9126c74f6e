<script setup lang="ts">
import { numberText } from '../../../core/view/numbers.ts'
import type { Sum } from '../../../core/view/why.ts'
import LongList from '../LongList.vue'

/** The sum behind one tally: by place or line by line, those that came last first to hand. */
defineProps<{ sum: Sum; name: string; isRandom: boolean; isLong: boolean; isWhole: boolean }>()
defineEmits<{ turn: [] }>()
</script>

<template>
  <div :data-test="`sum ${sum.tally}`">
    <div class="head"><b>{{ name }}, up to here</b>
      <button v-if="isLong" class="quiet soft" @click="$emit('turn')">{{ isWhole ? 'by place' : `all ${numberText(sum.count)} lines` }}</button><span v-else class="soft">{{ sum.tally }}</span></div>
    <ul>
      <LongList :key="String(isWhole)" v-slot="{ item: line }" :items="sum.lines" :name="`lines ${sum.tally}`" last :at-first="isWhole ? 100 : 20">
        <li><span>{{ line.label }}<span v-if="line.detail" class="soft">, {{ line.detail }}</span></span><span class="num">{{ numberText(line.total) }}</span></li>
      </LongList>
      <li class="total"><span>{{ isRandom ? 'in all, in the middle walk' : 'in all' }}</span><span class="num" :data-test="`total ${sum.tally}`">{{ numberText(sum.total) }}</span></li>
    </ul>
  </div>
</template>

<style scoped>
.head { align-items: center; display: flex; justify-content: space-between; }
.head .quiet { font-size: 12px; }
ul { font-size: 12px; list-style: none; margin: 0; padding: 0; }
li:not(.more) { display: flex; gap: 8px; justify-content: space-between; padding: 1px 0; }
.num { white-space: nowrap; }
.total { border-top: 1px solid var(--line); font-weight: 700; }
</style>
