export function freePort(wanted?: number): Promise<number>
export function startDatabase(
  folder: string,
  wantedPort?: number,
): Promise<{ readonly port: number; readonly pid: number; stop(): Promise<void> }>
