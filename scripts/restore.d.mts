export function restoreCopy(file: string, port: number, name: string): Promise<string>
