import type { Raw } from '../kinds.ts'

export const currentVersion = 1

/** One step from a version of the file to the next. */
export interface Upgrade {
  from: number
  up: (raw: Raw) => Raw
}

/** Every step there has been, oldest first. A new version adds its step at the end. */
export const upgrades: readonly Upgrade[] = []

/** Throws when the steps do not lead one by one from version 1 to the current one: a fault of the program. */
export function assertUpgradeSequence(steps: readonly Upgrade[], current: number): void {
  steps.forEach((step, i) => {
    if (step.from !== i + 1) throw new Error(`upgrade ${i} starts from version ${step.from}, expected ${i + 1}`)
  })
  if (steps.length !== current - 1) throw new Error(`${steps.length} upgrades do not lead to version ${current}`)
}

assertUpgradeSequence(upgrades, currentVersion)

/** Takes an older file's value to the current version; one that names no version it knows is left to the schema. */
export function upgrade(raw: Raw, steps: readonly Upgrade[] = upgrades): Raw {
  let value = raw
  for (const step of steps) {
    if (value.version === step.from) value = { ...step.up(value), version: step.from + 1 }
  }
  return value
}
