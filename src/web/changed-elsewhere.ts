/** What is said where somebody else has put another value into what is being typed. */
export function changedElsewhere(value: string): string {
  return `It was changed elsewhere to “${value}”: Enter puts this over it, Esc leaves it.`
}
