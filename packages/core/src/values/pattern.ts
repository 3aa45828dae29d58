/**
 * Patterns that others write (rulebooks): ECMAScript with the `u` flag, found anywhere in a text, as JSON Schema has it
 * (2020-12, section 6.3.3). None of them can hold a thread up: those whose cost is proved small run natively, all others on
 * an engine of linear time, and what that cannot take is refused with the reason.
 */
import { type AST, parseRegExpLiteral } from '@eslint-community/regexpp';
import { RE2JS } from 're2js';

export type CompiledPattern =
  { ok: true; engine: 'native' | 'linear'; test(text: string): boolean } | { ok: false; reason: string };

/** Characters of a text that are looked through; a longer one is not of the form. */
const longestText = 20_000;
const longestPattern = 500;

export function compilePattern(source: string): CompiledPattern {
  if (source.length > longestPattern) return no(`it has more than ${longestPattern} characters`);
  let parsed: AST.RegExpLiteral;
  try {
    parsed = parseRegExpLiteral(new RegExp(source, 'u'));
  } catch (error) {
    return no(error instanceof Error ? error.message.replace(/^Invalid regular expression: /, '') : String(error));
  }
  if (isCheap(parsed.pattern)) {
    const native = new RegExp(source, 'u');
    return { ok: true, engine: 'native', test: (text) => text.length <= longestText && native.test(text) };
  }
  try {
    const linear = RE2JS.compile(RE2JS.translateRegExp(source));
    return { ok: true, engine: 'linear', test: (text) => text.length <= longestText && linear.matcher(text).find() };
  } catch (error) {
    return no(
      `it holds what cannot be checked in linear time (${error instanceof Error ? error.message : String(error)}); look-arounds and references back are such`,
    );
  }
}

const no = (reason: string): CompiledPattern => ({ ok: false, reason });

/**
 * A row of single characters, each so often, of which at most one varies in number, from the beginning of the text: there is
 * one way to match, given where that one ends. Or a row of a fixed length anywhere.
 */
function isCheap(pattern: AST.Pattern): boolean {
  const [only, ...others] = pattern.alternatives;
  if (!only || others.length > 0) return false;
  const row = flatten(only.elements);
  if (!row) return false;
  const isAnchored = only.elements[0]?.type === 'Assertion' && only.elements[0].kind === 'start';
  const varying = row.filter(({ min, max }) => min !== max).length;
  const length = row.reduce((sum, { max }) => sum + max, 0);
  return isAnchored ? varying <= 1 : varying === 0 && length <= longestFixed;
}

const longestFixed = 100;

interface Repeated {
  min: number;
  max: number;
}

/** Single characters with how often each stands; undefined where there is anything else. */
function flatten(elements: readonly AST.Element[]): Repeated[] | undefined {
  const row: Repeated[] = [];
  for (const element of elements) {
    switch (element.type) {
      case 'Character':
      case 'CharacterSet':
      case 'CharacterClass':
        row.push({ min: 1, max: 1 });
        break;
      case 'Assertion':
        if (element.kind !== 'start' && element.kind !== 'end') return undefined;
        break;
      case 'CapturingGroup':
      case 'Group': {
        const [only, ...others] = element.alternatives;
        const inner = only && others.length === 0 ? flatten(only.elements) : undefined;
        if (!inner) return undefined;
        row.push(...inner);
        break;
      }
      case 'Quantifier':
        if (!['Character', 'CharacterSet', 'CharacterClass'].includes(element.element.type)) return undefined;
        row.push({ min: element.min, max: element.max });
        break;
      default:
        return undefined;
    }
  }
  return row;
}
