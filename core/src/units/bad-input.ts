/**
 * Input that cannot be used. `message` is one clear sentence that names the place and the cure; `code` and `facts` are
 * for a caller that wants words of its own.
 */
export class BadInput extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly facts: Readonly<Record<string, unknown>> = {},
  ) {
    super(message);
    this.name = 'BadInput';
  }
}

/** Valid input to which no answer exists, e.g. more cookies than the trays hold. */
export class NoAnswer extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly facts: Readonly<Record<string, unknown>> = {},
  ) {
    super(message);
    this.name = 'NoAnswer';
  }
}
