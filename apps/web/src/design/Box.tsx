/**
 * What pages are laid out of: an element with its direction, distances, tone and surface by name. Distances are steps of four
 * pixels, halves allowed; `pad` and `gapAround` take one step, or up to four as CSS has them. Nothing outside `design/` writes styles.
 */
import type { CSSProperties, ComponentPropsWithRef, ElementType } from 'react';

const tones = {
  inherit: 'inherit',
  ink: 'var(--shelf-palette-ink)',
  muted: 'var(--shelf-palette-ink-2)',
  faint: 'var(--shelf-palette-ink-3)',
  accent: 'var(--shelf-palette-accent)',
  brass: 'var(--shelf-palette-brass)',
  blocked: 'var(--shelf-palette-blocked)',
  advice: 'var(--shelf-palette-advice)',
  ready: 'var(--shelf-palette-ready)',
  live: 'var(--shelf-palette-live)',
  held: 'var(--shelf-palette-held)',
};
export type Tone = keyof typeof tones;

const surfaces = {
  card: 'var(--shelf-palette-card)',
  paper: 'var(--shelf-palette-paper)',
  band: 'var(--shelf-palette-band)',
  brass: 'var(--shelf-palette-brass-tint)',
  picked: 'var(--shelf-palette-picked)',
  blocked: 'var(--shelf-palette-blocked-tint)',
  advice: 'var(--shelf-palette-advice-tint)',
  ready: 'var(--shelf-palette-ready-tint)',
  live: 'var(--shelf-palette-live-tint)',
  held: 'var(--shelf-palette-held-tint)',
};
export type Surface = keyof typeof surfaces;

type Steps = number | readonly number[];
type Length = number | string;

const flags = ['row', 'col', 'wrap', 'grow', 'scroll', 'cut', 'muted', 'small', 'num', 'serif'] as const;
type Flag = (typeof flags)[number];

export interface Look extends Partial<Record<Flag, boolean>> {
  align?: 'start' | 'end' | 'center' | 'baseline' | 'stretch' | undefined;
  gap?: Steps | undefined;
  pad?: Steps | undefined;
  padTop?: number | undefined;
  padRight?: number | undefined;
  padBottom?: number | undefined;
  padLeft?: number | undefined;
  /** Distance to what is around it. */
  around?: Steps | undefined;
  above?: number | undefined;
  below?: number | undefined;
  before?: number | undefined;
  /** Pushed to the end of its row. */
  toEnd?: boolean | undefined;
  wide?: Length | undefined;
  minWide?: Length | undefined;
  maxWide?: Length | undefined;
  high?: Length | undefined;
  minHigh?: Length | undefined;
  maxHigh?: Length | undefined;
  /** Keeps its size in a row that is too narrow. */
  fixed?: boolean | undefined;
  tone?: Tone | undefined;
  surface?: Surface | undefined;
  line?: 'top' | 'bottom' | 'left' | 'right' | undefined;
  /** Pixels. */
  textSize?: number | undefined;
  strong?: boolean | undefined;
  plainWeight?: boolean | undefined;
  medium?: boolean | undefined;
  toRight?: boolean | undefined;
  block?: boolean | undefined;
  /** A grid with these columns, as CSS has them; `true` for one. */
  columns?: string | true | undefined;
  oneLine?: boolean | undefined;
  /** Long words are broken anywhere. */
  breaks?: boolean | undefined;
  /** A list without marks and indents. */
  unmarked?: boolean | undefined;
  alignSelf?: 'center' | 'start' | 'end' | undefined;
  /** Taken back, and no more. */
  struck?: boolean | undefined;
  /** Left out, and still to be read. */
  faded?: boolean | undefined;
  /** Can be chosen by a click; `chosen` marks the one that is. */
  choosable?: boolean | undefined;
  chosen?: boolean | undefined;
  underlined?: boolean | undefined;
  /** With round corners; `framed` draws a line around, too. */
  rounded?: boolean | undefined;
  framed?: boolean | undefined;
}

type BoxProps<E extends ElementType> = Look & { as?: E } & Omit<ComponentPropsWithRef<E>, keyof Look | 'as' | 'style'>;

const px = (step: number) => `${step * 4}px`;
const steps = (given: Steps | undefined) =>
  given === undefined ? undefined : typeof given === 'number' ? px(given) : given.map(px).join(' ');
const flexEdges = { start: 'flex-start', end: 'flex-end', center: 'center', baseline: 'baseline', stretch: 'stretch' };
const side = { top: 'borderTop', bottom: 'borderBottom', left: 'borderLeft', right: 'borderRight' } as const;

/** Takes a look apart into classes, styles, and what the element itself gets. */
function dress<P extends Look & { className?: string }>(props: P) {
  const {
    align,
    gap,
    pad,
    padTop,
    padRight,
    padBottom,
    padLeft,
    around,
    above,
    below,
    before,
    toEnd,
    wide,
    minWide,
    maxWide,
    high,
    minHigh,
    maxHigh,
    fixed,
    tone,
    surface,
    line,
    textSize,
    strong,
    plainWeight,
    medium,
    toRight,
    block,
    columns,
    oneLine,
    breaks,
    unmarked,
    alignSelf,
    struck,
    faded,
    choosable,
    chosen,
    underlined,
    rounded,
    framed,
    row,
    col,
    wrap,
    grow,
    scroll,
    cut,
    muted,
    small,
    num,
    serif,
    className,
    ...rest
  } = props;
  const on = { row, col, wrap, grow, scroll, cut, muted, small, num, serif };
  const classes = [...flags.filter((flag) => on[flag]), ...(className ? [className] : [])];
  const style: CSSProperties = {
    ...(unmarked ? { listStyle: 'none', margin: 0, padding: 0 } : {}),
    ...defined({
      alignItems: align && flexEdges[align],
      alignSelf,
      gap: steps(gap),
      padding: steps(pad),
      paddingTop: steps(padTop),
      paddingRight: steps(padRight),
      paddingBottom: steps(padBottom),
      paddingLeft: steps(padLeft),
      margin: steps(around),
      marginTop: steps(above),
      marginBottom: steps(below),
      marginLeft: toEnd ? 'auto' : steps(before),
      width: wide,
      minWidth: minWide,
      maxWidth: maxWide,
      height: high,
      minHeight: minHigh,
      maxHeight: maxHigh,
      flex: fixed ? 'none' : undefined,
      color: tone && tones[tone],
      background: chosen ? 'var(--shelf-palette-velvet-100)' : surface && surfaces[surface],
      fontSize: textSize,
      fontWeight: strong ? 600 : medium ? 500 : plainWeight ? 400 : undefined,
      textAlign: toRight ? 'right' : undefined,
      display: block ? 'block' : columns ? 'grid' : undefined,
      gridTemplateColumns: columns === true ? undefined : columns,
      whiteSpace: oneLine ? 'nowrap' : undefined,
      overflowWrap: breaks ? 'anywhere' : undefined,
      textDecoration: struck ? 'line-through' : underlined ? 'underline' : undefined,
      textDecorationColor: underlined ? 'var(--shelf-palette-line-strong)' : undefined,
      opacity: faded ? 0.55 : undefined,
      cursor: choosable ? 'pointer' : undefined,
      border: framed ? '1px solid var(--shelf-palette-line)' : undefined,
      borderRadius: framed || rounded ? 7 : undefined,
    }),
    // What sticks to its top stands on its edge, not below its padding.
    ...(scroll ? { '--pad-top': steps(padTop ?? (Array.isArray(pad) ? pad[0] : pad)) ?? '0px' } : {}),
    ...(line ? { [side[line]]: '1px solid var(--shelf-palette-line)' } : {}),
  };
  return {
    rest,
    className: classes.length > 0 ? classes.join(' ') : undefined,
    style: Object.keys(style).length > 0 ? style : undefined,
  };
}

const defined = (style: CSSProperties): CSSProperties =>
  Object.fromEntries(Object.entries(style).filter(([, value]) => value !== undefined));

export function Box<E extends ElementType = 'div'>({ as, ...props }: BoxProps<E>) {
  const Element: ElementType = as ?? 'div';
  const { rest, className, style } = dress(props);
  return <Element {...rest} className={className} style={style} />;
}
