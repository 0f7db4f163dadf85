/** A job document that cannot be used; `message` is a sentence for the operator. */
export class JobError extends Error {}
