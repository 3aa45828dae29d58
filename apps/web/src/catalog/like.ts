/** Another of the same: what a new product takes over from goods there are. */
import type { AttributeAnswer, ProductAnswer } from '@velvet-shelf/contract';
import { axesOf, usedAxes } from '@velvet-shelf/core/catalog';
import { identifyingRoles } from '@velvet-shelf/core/values';

interface Begun {
  fields: {
    title: string;
    category: string;
    brand: string;
    sku: string;
    gtin: string;
    price: string;
    stock: string;
    axes: { name: string; values: string }[];
  };
  /** What no field of the form asks for. */
  others: { attribute: string; label: string; text: string }[];
}

export const blank: Begun = {
  fields: { title: '', category: '', brand: '', sku: '', gtin: '', price: '', stock: '', axes: [] },
  others: [],
};

/** Asked for by fields of the form. */
const asked = ['title', 'category', 'brand'] as const;

/** Its texts in the company's own language, its options, and all that names no one thing alone. */
export function beginLike(
  like: ProductAnswer,
  attributes: readonly AttributeAnswer[],
  language: string | undefined,
): Begun {
  const said = like.values.filter(({ language: of, text }) => text !== null && (of === null || of === language));
  const textOf = (role: (typeof asked)[number]) => said.find((value) => value.role === role)?.text ?? '';
  const variants = like.siblings.map(({ id, options }) => ({ id, options: Object.fromEntries(options) }));
  const axes = like.kind === 'family' ? usedAxes(axesOf(variants, attributes), variants, { language }) : [];
  return {
    fields: {
      ...blank.fields,
      title: textOf('title') || (like.title ?? ''),
      category: textOf('category') || like.category.join(' / '),
      brand: textOf('brand'),
      axes: axes.map(({ key, values }) => ({ name: key, values: values.join('\n') })),
    },
    others: said.flatMap(({ attribute, label, role, text }) =>
      text === null || (role && (identifyingRoles.has(role) || asked.some((each) => each === role)))
        ? []
        : [{ attribute, label, text }],
    ),
  };
}
