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
