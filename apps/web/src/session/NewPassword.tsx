/** A password that is chosen here, asked in the same way wherever one is. */
import { useFormContext } from 'react-hook-form';
import { Field } from '../design/Form';

/** Inside a form that has `password` among its fields. */
export function NewPassword({ label = 'Password' }: { label?: string }) {
  const { control } = useFormContext<{ password: string }>();
  return (
    <Field
      control={control}
      name="password"
      label={label}
      type="password"
      helperText="Ten letters or more"
      autoComplete="new-password"
      required
    />
  );
}
