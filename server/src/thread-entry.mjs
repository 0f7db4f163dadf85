// Node 20 does not carry the TypeScript loader into worker threads: it is registered here, then the module runs.
import { workerData } from 'node:worker_threads'
import { register } from 'tsx/esm/api'

register()
await import(workerData.module)
