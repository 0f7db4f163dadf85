export function buildPrograms(): Promise<void>
export function program(workspace: string, name: string): string
