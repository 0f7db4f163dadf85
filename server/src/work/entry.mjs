// From source, the loader of TypeScript must be registered in each thread; then the tasks are loaded. A build needs none of this.
import { register } from 'tsx/esm/api'

register()
const { default: answer } = await import('./tasks.ts')
export default answer
