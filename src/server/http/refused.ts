/** A request that cannot be answered as asked; the message is for the user. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly facts: Record<string, unknown> = {},
  ) {
    super(message);
  }
}
