/** Begins a thread of Node in which TypeScript can be run, and in it what a worker of the page finds around it. */
import { register } from 'tsx/esm/api'

register()
await import('./worker-host.ts')
