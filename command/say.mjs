/** What the command tells the person who runs it. */
export function say(text) {
  process.stdout.write(`${text}\n`);
}

/** A fault with what to do about it; ends the command. */
export class Fault extends Error {
  constructor(message, advice) {
    super(message);
    this.advice = advice;
  }
}
