/** Said where a job was just begun of a file: what it burns first is chosen, so that its size can be typed at once. */
export const JUST_BEGUN = { begun: true } as const
