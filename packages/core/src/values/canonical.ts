/** JSON with the keys of every object in order: equal data, equal text, wherever it has been kept meanwhile. */
export function canonical(value: unknown): string {
  if (typeof value !== 'object' || value === null) return JSON.stringify(value) ?? 'null';
  if (Array.isArray(value)) {
    let list = '';
    for (let i = 0; i < value.length; i++) list += (i > 0 ? ',' : '') + canonical(value[i]);
    return `[${list}]`;
  }
  const members = value as Record<string, unknown>;
  let text = '';
  for (const key of Object.keys(members).sort()) {
    const member = members[key];
    if (member === undefined) continue;
    text += `${text === '' ? '' : ','}${JSON.stringify(key)}:${canonical(member)}`;
  }
  return `{${text}}`;
}

/** Equal as data: just what `canonical` writes alike, without writing it. */
export function isSame(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return canonical(a) === canonical(b);
  if (Array.isArray(a) || Array.isArray(b))
    return (
      Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((member, i) => isSame(member, b[i]))
    );
  const [x, y] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const there = Object.keys(x).filter((key) => x[key] !== undefined);
  return (
    there.length === Object.keys(y).filter((key) => y[key] !== undefined).length &&
    there.every((key) => y[key] !== undefined && isSame(x[key], y[key]))
  );
}
