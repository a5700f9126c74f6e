/** Rooms for what is made anew again and again, and may be long: two of them, in turn. */
export function roomsInTurn(): (length: number) => Float64Array<ArrayBuffer> {
  const rooms = [new Float64Array(0), new Float64Array(0)]
  return (length) => {
    rooms.reverse()
    if (rooms[0]!.length < length) rooms[0] = new Float64Array(Math.ceil(length * 1.5))
    return rooms[0]!.subarray(0, length).fill(0)
  }
}
