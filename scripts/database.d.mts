export function freePort(wanted?: number): Promise<number>
export function missingParts(data: string): readonly string[] | undefined
export function runningIn(folder: string): { readonly owner: number; readonly port: number } | undefined
export function startDatabase(
  folder: string,
  wantedPort?: number,
  options?: { readonly extra?: readonly string[]; readonly onDeath?: () => void },
): Promise<{ readonly port: number; readonly pid: number; stop(): Promise<void> }>
