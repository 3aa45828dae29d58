import './thumb.css';

/** The host of a picture that stands elsewhere: nothing is loaded from there by the page. */
function elsewhere(name: string): string | undefined {
  if (!/^(?:https?:)?\/\//i.test(name)) return undefined;
  return URL.parse(name, 'https://localhost')?.host ?? name;
}

/** A picture of goods, `size` pixels wide and high; for one at an outside address, a sign that says where it is. */
export function Thumb({ name, size = 24 }: { name: string | null; size?: number }) {
  const box = { width: size, height: size };
  if (name === null) return <span className="thumb" style={box} aria-hidden="true" />;
  const host = elsewhere(name);
  if (host !== undefined) {
    const words = `Picture at ${host}, not fetched`;
    return (
      <span className="thumb elsewhere" style={box} role="img" aria-label={words} title={words}>
        ↗
      </span>
    );
  }
  const address = `/media/${encodeURIComponent(name)}?side=${size > 64 ? 512 : 128}`;
  return <img className="thumb" src={address} alt="" loading="lazy" style={box} />;
}
