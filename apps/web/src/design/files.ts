/** Files of a person's own: read, and given. */

/** What a JSON file holds; an error that names it where it is none. */
export async function readJson(file: File): Promise<unknown> {
  try {
    return JSON.parse(await file.text());
  } catch {
    throw new Error(`“${file.name}” is not JSON; nothing was changed`);
  }
}

/** Hands a JSON document over as a file of this name. */
export function saveJson(name: string, content: unknown, type = 'application/json'): void {
  const url = URL.createObjectURL(new Blob([JSON.stringify(content, null, 2)], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}
