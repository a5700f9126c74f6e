import { useDebounceFn } from '@vueuse/core'
import { shallowReadonly, shallowRef, watch, type ShallowRef } from 'vue'

/** In milliseconds: what has not changed for so long is at rest; and what changes on and on is followed every so often. */
const pause = 60
const longest = 250
/** So many times what comes first is let pass. */
const patience = 5

interface Calm {
  /** Whether every change is followed at once. */
  isAtHand?: () => boolean
  /** Whether there is something that comes first: it is waited for, though not for ever. */
  isBusy?: () => boolean
  /** Puts off what is done until the last of its calls is some time ago. */
  atRest?: (act: () => void) => () => unknown
}

/**
 * A value as it was when it last came to rest: what stands beside follows a moment later, and does not hold up what the hand is on.
 * `follow` takes what there is now.
 */
export function useCalm<T>(source: () => T, { isAtHand = () => false, isBusy = () => false, atRest = whenItRests }: Calm = {}): { calm: Readonly<ShallowRef<T>>; follow: () => void } {
  const calm = shallowRef(source()) as ShallowRef<T>
  let waited = 0
  const follow = () => {
    waited = 0
    calm.value = source()
  }
  const followSoon = atRest(() => {
    if (isBusy() && waited++ < patience) void followSoon()
    else follow()
  })
  watch(source, () => {
    if (isAtHand()) follow()
    else void followSoon()
  })
  return { calm: shallowReadonly(calm), follow }
}

function whenItRests(act: () => void): () => unknown {
  return useDebounceFn(act, pause, { maxWait: longest })
}
