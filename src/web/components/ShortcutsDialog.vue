<script setup lang="ts">
import { ElDialog } from 'element-plus'
import { computed } from 'vue'
import { allCommands, dialogs } from '../commands.ts'

/** Every shortcut: of the commands, and of the sheet's rows. */
const inSheet: [keys: string, title: string][] = [
  ['Enter', 'edit the cell; take what was typed'], ['Tab, Shift+Tab', 'take it and go to the next cell, the one before'], ['Esc', 'leave the cell as it was; choose nothing'],
  ['↑ ↓ ← →', 'go between rows and cells; ← and → fold a place'], ['Page Up, Page Down', 'go far'], ['Home, End', 'go to the first row, to the last'],
  ['Shift with ↑ ↓', 'choose several rows'], ['Ctrl+A', 'choose all rows of the place, then of the sheet'], ['Ctrl+C, Ctrl+V', 'copy rows as a table; paste a table as rows'],
  ['Alt with ↑ ↓', 'move the row, or the place on the route'], ['Alt with ← →', "lower or raise the gate's threshold"], ['Ctrl+D', 'double the chosen rows, or a place with all that it holds'], ['Delete', 'delete the chosen rows'],
]
const ofCommands = computed(() => allCommands().flatMap(({ keys, shown, title }) => (keys || shown ? [[keys ?? shown!, title] as const] : [])))
</script>

<template>
  <ElDialog v-model="dialogs.shortcuts" title="Shortcuts" width="min(980px, 94vw)" top="6vh" append-to-body>
    <div class="columns" data-test="shortcuts">
      <section>
        <h3>Anywhere outside a text field</h3>
        <dl><template v-for="[keys, title] in ofCommands" :key="title"><dt><kbd>{{ keys }}</kbd></dt><dd>{{ title }}</dd></template><dt><kbd>Ctrl+K</kbd></dt><dd>All commands, and everything in the plan by its name</dd><dt><kbd>?</kbd></dt><dd>This list</dd></dl>
      </section>
      <section>
        <h3>In the sheet</h3>
        <dl><template v-for="[keys, title] in inSheet" :key="keys"><dt><kbd>{{ keys }}</kbd></dt><dd>{{ title }}</dd></template></dl>
      </section>
    </div>
    <p class="soft">Ctrl stands for ⌘ as well.</p>
  </ElDialog>
</template>

<style scoped>
.columns { display: grid; gap: 24px; grid-template-columns: 1fr 1fr; }
h3 { font-size: 13px; margin: 0 0 6px; }
dl { display: grid; gap: 3px 10px; grid-template-columns: auto 1fr; margin: 0; }
dt { white-space: nowrap; }
dd { margin: 0; }
kbd { background: var(--panel); border-radius: 3px; font-family: var(--mono); font-size: 12px; padding: 1px 5px; }
p { margin: 12px 0 0; }
</style>
