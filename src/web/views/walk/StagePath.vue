<script setup lang="ts">
import { computed } from 'vue'
import { numberText } from '../../../core/view/numbers.ts'
import { stagesOf } from '../../../core/view/stages.ts'
import { useWalkStore } from '../../stores/walk.ts'

/** The stages as the player sees them on the path: open or locked, what was earned on each, what the next asks. */
const walk = useWalkStore()
const stages = computed(() => (walk.game && walk.state ? stagesOf(walk.game, walk.state) : []))
</script>

<template>
  <section v-if="stages.length" class="stages" aria-label="Stages" data-test="stages">
    <div v-for="stage in stages" :key="stage.place" :class="{ locked: !stage.isOpen, here: stage.isHere }" class="stage" data-test="stage">
      <p><b>{{ stage.name }}</b> <span class="soft">{{ stage.isHere ? 'here' : stage.isOpen ? (stage.visited ? 'been there' : 'open') : 'locked' }}</span></p>
      <p v-for="one in stage.earned" :key="one.tally" class="num">{{ numberText(one.has) }} of {{ numberText(one.most) }} {{ one.tally }}</p>
      <p v-if="stage.asks" class="mono">{{ stage.asks }}</p>
    </div>
  </section>
</template>

<style scoped>
.stages { display: grid; flex: none; gap: 6px; grid-template-columns: repeat(auto-fit, minmax(140px, 1fr)); margin: 4px 0; max-height: 112px; overflow-y: auto; padding: 2px; }
.stage { border: 1px solid var(--line); border-left: 4px solid var(--clear); border-radius: 4px; padding: 4px 8px; }
.stage.locked { border-left-color: var(--sealed); color: var(--soft); }
.stage.here { background: var(--mark); }
p { font-size: 12px; margin: 0; overflow-wrap: anywhere; text-align: left; }
</style>
