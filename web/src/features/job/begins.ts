/** What is done in a job as soon as it is open: said by the page that began it. */
export interface Begins {
  /** It is chosen what is drawn. */
  readonly draws?: true
}
