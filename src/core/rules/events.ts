/** What happened while a move was made, for those who tell of it: the sum behind a number, the walk, findings. */
export type GameEvent =
  | { type: 'changed'; tally: number; by: number }
  | { type: 'level'; character: number; to: number }
  | { type: 'lost'; character: number; amount: number; why: 'top' | 'cleared' }
  /** A gain brings one level at the most, and after it there was XP for so many more. */
  | { type: 'behind'; character: number; amount: number; levels: number }
  | { type: 'reward'; character: number; level: number }
  | { type: 'cap'; character: number; limit: number }
  | { type: 'joined'; character: number }
  | { type: 'reset'; tally: number; from: number }
