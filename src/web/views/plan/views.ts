import type { InjectionKey, Ref } from 'vue'

/** The views of a plan, in the order of the bar. */
export const views = [
  { name: 'route', word: 'Route', key: '1' },
  { name: 'map', word: 'Map', key: '2' },
  { name: 'curves', word: 'Curves', key: '3' },
  { name: 'walk', word: 'Walk', key: '4' },
] as const

export type StepThroughTrouble = (by: 1 | -1) => void
export const troubleKey: InjectionKey<Ref<StepThroughTrouble | null>> = Symbol('trouble')
