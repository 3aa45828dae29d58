/** What somebody sent as JSON; undefined where it is none. */
export function readJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
