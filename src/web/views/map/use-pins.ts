import { useLocalStorage } from '@vueuse/core'
import { computed, type ComputedRef, type Ref } from 'vue'
import type { Pins } from '../../../core/view/map-paths.ts'

/** Where the places of a plan's map have been put by hand, kept in this browser for each plan. */
export function usePins(planId: () => string): { pins: ComputedRef<Pins>; pin: (key: string, at: { x: number; y: number } | null) => void; unpinAll: () => void } {
  const all: Ref<Record<string, Record<string, { x: number; y: number }>>> = useLocalStorage('tundrift map pins', {})
  const pins = computed(() => all.value[planId()] ?? {})
  function pin(key: string, at: { x: number; y: number } | null): void {
    const next = { ...pins.value }
    if (at) next[key] = { x: Math.round(Math.max(at.x, 90)), y: Math.round(Math.max(at.y, 40)) }
    else delete next[key]
    all.value = { ...all.value, [planId()]: next }
  }
  function unpinAll(): void {
    const { [planId()]: _, ...others } = all.value
    all.value = others
  }
  return { pins, pin, unpinAll }
}
