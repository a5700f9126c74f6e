/** Done when messages that wait have been heard: a timer would wait for milliseconds each time. */
export const heard = () => new Promise<void>((done) => {
  const { port1, port2 } = new MessageChannel()
  port1.onmessage = () => {
    port1.close()
    done()
  }
  port2.postMessage(null)
})

/** While the user scrolls or types, what is not looked at rests. */
export class Rest {
  private resting: Promise<void> | null = null
  private end = () => {}

  /** The hands are busy, or at rest again. */
  hush(busy: boolean): void {
    if (!busy) {
      this.end()
      this.resting = null
    } else this.resting ??= new Promise((done) => (this.end = done))
  }

  /** Lets messages be heard, and waits until the hands are at rest. */
  async calm(): Promise<void> {
    await heard()
    while (this.resting) await this.resting
  }
}
