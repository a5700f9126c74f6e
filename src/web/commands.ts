import { useEventListener } from '@vueuse/core'
import { reactive, ref, shallowReactive } from 'vue'

/** Something the user can do from anywhere: listed in the palette and on the list of shortcuts. */
export interface Command {
  id: string
  title: string
  /** Keys as shown; `Ctrl+` stands for ⌘ too. */
  keys?: string
  /** Keys that are shown, but listened to elsewhere. */
  shown?: string
  run: () => void
  enabled?: () => boolean
}

/** Kept as they are given, so that whoever gave them can take back the same. */
const registered = shallowReactive(new Map<string, Command>())
export const paletteOpen = ref(false)
/** Which dialogs are open. */
export const dialogs = reactive({ history: false, replace: false, shortcuts: false })

/** Makes commands known while a view is open. Returns how to take them back. */
export function addCommands(commands: readonly Command[]): () => void {
  for (const command of commands) registered.set(command.id, command)
  return () => commands.forEach((command) => registered.get(command.id) === command && registered.delete(command.id))
}

export function allCommands(): Command[] {
  return [...registered.values()]
}

export function runCommand(id: string): void {
  const command = registered.get(id)
  if (command && command.enabled?.() !== false) command.run()
}

/** The keys of an event, as they are written in a command. */
function keysOf(event: KeyboardEvent): string {
  const control = event.ctrlKey || event.metaKey
  const key = event.key.length === 1 ? (control ? event.key.toUpperCase() : event.key) : event.key
  return `${control ? 'Ctrl+' : ''}${control && event.shiftKey ? 'Shift+' : ''}${key}`
}

/** While a dialog is open its keys are its own. */
function isDialogOpen(): boolean {
  return [...document.querySelectorAll('.el-overlay')].some((overlay) => getComputedStyle(overlay).display !== 'none')
}

function isTyping(target: EventTarget | null): boolean {
  const element = target as HTMLElement | null
  return element !== null && (element.matches?.('input, textarea, select, [contenteditable="true"]') ?? false)
}

/** Listens for every command's keys: outside text fields, or anywhere with Ctrl or ⌘. */
export function useShortcuts(): void {
  useEventListener('keydown', (event: KeyboardEvent) => {
    if (event.defaultPrevented || event.altKey) return
    const keys = keysOf(event)
    if (keys === 'Ctrl+K' || (keys === '?' && !isTyping(event.target))) {
      event.preventDefault()
      if (keys === '?') dialogs.shortcuts = true
      else paletteOpen.value = true
      return
    }
    if (isDialogOpen() || (isTyping(event.target) && !keys.startsWith('Ctrl+'))) return
    const command = allCommands().find((found) => found.keys === keys)
    if (!command || (isTyping(event.target) && (keys === 'Ctrl+Z' || keys === 'Ctrl+Shift+Z'))) return
    event.preventDefault()
    runCommand(command.id)
  })
}
