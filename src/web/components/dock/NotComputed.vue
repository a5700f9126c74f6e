<script setup lang="ts">
/** What this version does not work out yet, so that nobody takes silence for a clean bill. */
</script>

<template>
  <section class="note">
    <h3>What is not checked yet</h3>
    <p>The route check counts for the chosen route and kind of player. Findings count for all of them. Whether a player can get stuck, and what opens in which order, is worked out by the command line (<code>tundrift check</code>) and not shown here yet. Fixes and rhythm are not worked out yet.</p>
    <p>In the lanes the line is the middle walk; within a stop the band is drawn in proportion between what was found on leaving the stops.</p>
  </section>
</template>

<style scoped>
.note { border-top: 1px solid var(--line); color: var(--soft); font-size: 12px; margin-top: 16px; padding-top: 10px; }
h3 { font-size: 12px; margin: 0 0 4px; }
p { margin: 0 0 6px; }
</style>
