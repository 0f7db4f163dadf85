/** A number with its noun: “1 row”, “3 rows”. */
export const counted = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`
