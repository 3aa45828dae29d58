/** What the values of an attribute are, asked in the same way wherever one is made or changed. */
import { attributeTypes, dimensions, roles } from '@velvet-shelf/core/values';
import { useFormContext, useWatch } from 'react-hook-form';
import { z } from 'zod';
import { Field } from '../design/Form';
import { yesNo, yesOrNo } from '../design/words';
import { roleWords, spaced, typeWords } from './words';

const orNone = <Key extends string>(keys: readonly Key[]) =>
  z.union([z.literal('').transform(() => null), z.enum(keys)]);

/** The fields as they are typed: choices as words, '' for none. */
export const kindFields = {
  type: z.enum(attributeTypes),
  many: yesOrNo,
  perLanguage: yesOrNo,
  dimension: orNone(dimensions),
  role: orNone(roles),
};
type Kind = z.output<z.ZodObject<typeof kindFields>>;
type Typed = z.input<z.ZodObject<typeof kindFields>>;

const word = (is: boolean) => (is ? 'true' : 'false');

export const kindTyped = ({ type, many, perLanguage, dimension, role }: Kind): Typed => ({
  type,
  many: word(many),
  perLanguage: word(perLanguage),
  dimension: dimension ?? '',
  role: role ?? '',
});

/** What one value is, and how many there are; inside a form that has these fields among its own. */
export function ShapeFields({ label, disabled = false }: { label: string; disabled?: boolean }) {
  const { control } = useFormContext<Pick<Typed, 'type' | 'dimension' | 'many'>>();
  const type = useWatch({ control, name: 'type' });
  return (
    <>
      <Field
        control={control}
        name="type"
        label={label}
        disabled={disabled}
        options={attributeTypes.map((each) => [each, typeWords[each]])}
      />
      {type === 'measure' ? (
        <Field
          control={control}
          name="dimension"
          label="Of"
          disabled={disabled}
          options={dimensions.map((each) => [each, spaced(each)])}
        />
      ) : (
        <Field
          control={control}
          name="many"
          label="Holds"
          disabled={disabled}
          options={yesNo('several values', 'one value')}
        />
      )}
    </>
  );
}

/** Inside a form that has `kindFields` among its own. */
export function KindFields({ disabled = false }: { disabled?: boolean }) {
  const { control } = useFormContext<Typed>();
  return (
    <>
      <ShapeFields label="Is" disabled={disabled} />
      <Field
        control={control}
        name="perLanguage"
        label="Languages"
        disabled={disabled}
        options={yesNo('a value in each language', 'the same in all languages')}
      />
      <Field
        control={control}
        name="role"
        label="Known as"
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        options={[['', 'nothing in particular'], ...roles.map((role) => [role, roleWords(role)] as const)]}
      />
    </>
  );
}
