/** Names for new things of a job: unlike any that is there. */
export const newId = (): string => crypto.randomUUID().replaceAll('-', '').slice(0, 10)
