/** The company's settings as fields: when it is made, and when they are changed. */
import { countries, currencies, languages, readLanguage, timeZones } from '@velvet-shelf/core/values';
import { useMemo } from 'react';
import { type Control, type FieldPath, type FieldValues, useWatch } from 'react-hook-form';
import { Field } from '../design/Form';
import { Pick } from '../design/Pick';
import { yesNo } from '../design/words';

type Named = { name: string; market: string; languages: string[]; currencies: string[]; timeZone: string };

export function CompanyFields<Values extends FieldValues & Named, Sent>({
  control,
}: {
  control: Control<Values, unknown, Sent>;
}) {
  const at = (name: keyof Named | 'pricesWithVat') => name as FieldPath<Values>;
  const market = useWatch({ control, name: at('market') }) as string;
  const lands = useMemo(() => countries(), []);
  const tongues = useMemo(() => languages(market), [market]);
  const coins = useMemo(() => currencies(), []);
  const zones = useMemo(() => timeZones().map((zone) => ({ code: zone, name: zone.replaceAll('_', ' ') })), []);
  return (
    <>
      <Field control={control} name={at('name')} label="Name of the company" autoFocus required />
      <Pick control={control} name={at('market')} label="Home market" choices={lands} required />
      <Pick
        control={control}
        name={at('languages')}
        label="Languages of its texts"
        choices={tongues}
        read={readLanguage}
        several
        required
        helperText="Its own first. A tag such as de-AT can be typed, too."
      />
      <Pick
        control={control}
        name={at('currencies')}
        label="Currencies of its prices"
        choices={coins}
        showsCode
        several
        required
        helperText="Its own first."
      />
      <Pick control={control} name={at('timeZone')} label="Time zone" choices={zones} required />
      <Field
        control={control}
        name={at('pricesWithVat')}
        label="Prices it keeps"
        options={yesNo('are with VAT', 'are without VAT')}
      />
    </>
  );
}
