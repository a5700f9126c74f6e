import { useDebounceFn } from '@vueuse/core'
import { shallowReadonly, shallowRef, watch, type ShallowRef } from 'vue'

/** In milliseconds: what has not changed for so long is at rest; and what changes on and on is followed every so often. */
const pause = 60
const longest = 250

/**
 * A value as it was when it last came to rest: what stands beside follows a moment later, and does not hold up what the hand is on.
 * `isAtHand`: whether every change is followed at once. `follow` takes what there is now. `atRest` puts off what is done until the
 * last of its calls is some time ago.
 */
export function useCalm<T>(source: () => T, isAtHand: () => boolean, atRest = (act: () => void): (() => unknown) => useDebounceFn(act, pause, { maxWait: longest })): { calm: Readonly<ShallowRef<T>>; follow: () => void } {
  const calm = shallowRef(source()) as ShallowRef<T>
  const follow = () => {
    calm.value = source()
  }
  const followSoon = atRest(follow)
  watch(source, () => {
    if (isAtHand()) follow()
    else void followSoon()
  })
  return { calm: shallowReadonly(calm), follow }
}
