<script setup lang="ts">
import { ElDropdown, ElDropdownItem, ElDropdownMenu } from 'element-plus'
import type { DrawnLane } from '../../draw/lane-scale.ts'

/** Names and axes over the lanes. A click on a narrow one's head makes it the wide one. */
defineProps<{ lanes: DrawnLane[]; hidden: { id: string; name: string }[]; width: number }>()
defineEmits<{ widen: [id: string] }>()
</script>

<template>
  <div class="heads" :style="{ width: `${width}px` }">
    <button
      v-for="lane in lanes" :key="lane.id" class="head" :class="{ wide: lane.wide }" :style="{ left: `${lane.left}px`, width: `${lane.width}px` }"
      :title="lane.wide ? lane.name : `Show ${lane.name} wide`" @click="$emit('widen', lane.id)"
    >{{ lane.name }}</button>
    <svg :width="width" height="56" aria-hidden="true">
      <template v-for="lane in lanes" :key="lane.id">
        <line :x1="lane.left" y1="0" :x2="lane.left" y2="56" class="edge" />
        <g v-for="tick in lane.ticks" :key="tick.x">
          <text :x="tick.x" :y="lane.wide && tick.under ? 38 : 50" class="label">{{ tick.label }}</text>
          <text v-if="tick.under" :x="tick.x" y="51" class="under">{{ tick.under }}</text>
        </g>
        <text v-if="lane.wide && lane.ticks.some((tick) => tick.under)" :x="lane.left + lane.width - 4" y="14" class="unit">level, XP in all below</text>
      </template>
    </svg>
    <ElDropdown v-if="hidden.length" trigger="click" class="more" @command="(id: string) => $emit('widen', id)">
      <button class="quiet" :aria-label="`${hidden.length} more lanes`" :title="hidden.map((lane) => lane.name).join(', ')">+{{ hidden.length }}</button>
      <template #dropdown><ElDropdownMenu><ElDropdownItem v-for="lane in hidden" :key="lane.id" :command="lane.id">{{ lane.name }}</ElDropdownItem></ElDropdownMenu></template>
    </ElDropdown>
  </div>
</template>

<style scoped>
.heads { position: relative; }
.head { background: none; border: 0; color: var(--ink); cursor: pointer; font-size: 11px; font-weight: 600; line-height: 1.1; max-height: 34px; overflow: hidden; padding: 5px 4px 0 8px; position: absolute; text-align: left; top: 0; }
.head.wide { font-size: 13px; padding-left: 14px; }
.edge { stroke: var(--line); }
.label { fill: var(--ink); font-size: 11px; text-anchor: middle; }
.under { fill: var(--soft); font-size: 10px; text-anchor: middle; }
.unit { fill: var(--soft); font-size: 10px; text-anchor: end; }
.more { position: absolute; right: -24px; top: 2px; }
.more .quiet { font-size: 11px; padding: 3px; }
</style>
