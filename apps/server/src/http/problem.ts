/** Errors people cause, as RFC 9457 problem details. */
import type { ZodError } from 'zod';

export interface Pointed {
  /** JSON pointer to the wrong field. */
  pointer: string;
  detail: string;
}

export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly errors: Pointed[] = [],
    readonly extra: Record<string, unknown> = {},
  ) {
    super(detail);
  }

  get body() {
    return {
      type: 'about:blank',
      title: this.title,
      status: this.status,
      detail: this.detail,
      ...(this.errors.length > 0 ? { errors: this.errors } : {}),
      ...this.extra,
    };
  }
}

export const badRequest = (detail: string, errors: Pointed[] = []) =>
  new Problem(400, 'The request cannot be used', detail, errors);
export const unprocessable = (detail: string, errors: Pointed[] = []) =>
  new Problem(422, 'This cannot be done', detail, errors);
export const notFound = (what: string) => new Problem(404, 'Not found', `There is no ${what}`);
export const conflict = (detail: string) => new Problem(409, 'Not in this state', detail);
/** Of what people keep by name: another has it. */
export const nameTaken = (detail: string, field = 'name') =>
  new Problem(409, 'The name is taken', detail, [{ pointer: `/body/${field}`, detail }]);
export const stale = (detail: string, extra: Record<string, unknown>) =>
  new Problem(412, 'Changed meanwhile', detail, [], extra);

export function fromZod(error: ZodError, part: string): Problem {
  const errors = error.issues.map((issue) => ({
    pointer: `/${[part, ...issue.path.map(String)].join('/')}`,
    detail: issue.message,
  }));
  return badRequest(errors.map((error) => `${error.pointer}: ${error.detail}`).join('; '), errors);
}
