/** What a record is called: its name, or its id where it has none. */
export function labelOf({ name, id }: { name?: string; id: string }): string {
  return name || id
}
