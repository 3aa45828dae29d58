/** In whose writing figures and dates are answered: what the browser asks for (RFC 9110 § 12.5.4), its first choice. */
import type { Context } from 'koa';

/** The first language asked for that is one (BCP 47); undefined where none is. */
export function localeOf(ctx: Context): string | undefined {
  for (const asked of ctx.acceptsLanguages()) {
    try {
      const [known] = Intl.DateTimeFormat.supportedLocalesOf(asked);
      if (known !== undefined) return known;
    } catch {
      // No language tag at all: the next one.
    }
  }
  return undefined;
}
