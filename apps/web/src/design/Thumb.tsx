import { picture } from './words';

export function Thumb({ name, size = 24 }: { name: string | null; size?: number }) {
  const box = {
    width: size,
    height: size,
    borderRadius: 4,
    flex: 'none',
    background: 'var(--band)',
    display: 'inline-block',
    verticalAlign: 'middle',
  } as const;
  return name === null ? (
    <span style={box} aria-hidden="true" />
  ) : (
    <img src={picture(name)} alt="" loading="lazy" style={{ ...box, objectFit: 'cover' }} />
  );
}
