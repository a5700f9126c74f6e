import { ref, type Ref } from 'vue'

/** What is typed into: its text as it is now (null: it is not on the page yet), and how it is given another one. */
interface Editor {
  read: () => string | null
  write: (text: string) => void
}

/** Text that is typed beside what stands in a record, which others may change meanwhile: what is typed stays, and theirs is told. */
export function useTyped(begins: string, { read, write }: Editor) {
  /** What stands in the record: text that differs from it has been typed, and is not taken yet. */
  const standing = ref(begins)
  /** What somebody else has put there while something was typed. */
  const elsewhere: Ref<string | null> = ref(null)

  function isTyped(): boolean {
    const text = read()
    return text !== null && text !== standing.value
  }

  /** The record holds another text now. */
  function stands(next: string): void {
    const isOwn = isTyped() && read() !== next
    standing.value = next
    elsewhere.value = isOwn ? next : null
    if (!isOwn && read() !== next) write(next)
  }

  /** What is typed has been taken. */
  function taken(): void {
    standing.value = read() ?? standing.value
    elsewhere.value = null
  }

  /** What stands there is shown again; `next`: of another record. */
  function leave(next = standing.value): void {
    standing.value = next
    elsewhere.value = null
    write(next)
  }

  return { elsewhere, isTyped, stands, taken, leave }
}
