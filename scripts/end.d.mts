import type { ChildProcess } from 'node:child_process'
export function endProcess(child: ChildProcess, graceMs: number): Promise<void>
