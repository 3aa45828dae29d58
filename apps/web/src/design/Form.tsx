/** Forms and their fields: values, faults and what the server says of a field, in one way everywhere. */
import TextField, { type TextFieldProps } from '@mui/material/TextField';
import MenuItem from '@mui/material/MenuItem';
import { zodResolver } from '@hookform/resolvers/zod';
import { type ReactNode, useEffect } from 'react';
import {
  type Control,
  type DefaultValues,
  type FieldPath,
  type FieldValues,
  FormProvider,
  type UseFormReturn,
  useController,
  useForm,
} from 'react-hook-form';
import type { z } from 'zod';
import { ApiProblem } from '../api/call';
import { Box, type Look } from './Box';
import { ProblemBox } from './feedback';

/** A form over a schema of the contract: what it sends is what the schema reads out of the fields. */
export const useFields = <Schema extends z.ZodType<FieldValues, FieldValues>>(
  schema: Schema,
  defaultValues: DefaultValues<z.input<Schema>>,
): UseFormReturn<z.input<Schema>, unknown, z.output<Schema>> =>
  useForm<z.input<Schema>, unknown, z.output<Schema>>({
    resolver: zodResolver(schema),
    defaultValues,
    mode: 'onChange',
  });

interface FormProps<Values extends FieldValues, Sent> extends Look {
  form: UseFormReturn<Values, unknown, Sent>;
  /** Sends it; a Problem that points at fields stands beside them, any other below the form. */
  onSend: (values: Sent) => unknown;
  /** Escape. */
  onCancel?: (() => void) | undefined;
  /** What the last sending met. */
  error?: unknown;
  children: ReactNode;
}

export function Form<Values extends FieldValues, Sent>({
  form,
  onSend,
  onCancel,
  error,
  children,
  ...look
}: FormProps<Values, Sent>) {
  const pointed = faultsOf(error).filter(({ name }) => name in form.getValues());
  const isSaid = pointed.length > 0 && pointed.length === faultsOf(error).length;
  const { setError } = form;
  // Until the field is another: what the server said was of what it was sent.
  useEffect(() => {
    for (const { name, detail } of faultsOf(error)) setError(name as FieldPath<Values>, { message: detail });
  }, [error, setError]);
  return (
    <Box
      as="form"
      {...look}
      noValidate
      onSubmit={(event) => {
        event.stopPropagation();
        void form.handleSubmit((values) => onSend(values))(event);
      }}
      onKeyDown={(event) => event.key === 'Escape' && onCancel?.()}
    >
      <FormProvider {...form}>{children}</FormProvider>
      {error !== null && error !== undefined && !isSaid && <ProblemBox error={error} />}
    </Box>
  );
}

/** Faults by field, as problem details point at them (RFC 9457 with RFC 6901 pointers into the body, or into what a change is to). */
function faultsOf(error: unknown): { name: string; detail: string }[] {
  const errors = error instanceof ApiProblem ? error.extra.errors : undefined;
  if (!Array.isArray(errors)) return [];
  return errors.flatMap((fault: { pointer?: unknown; detail?: unknown }) => {
    const name = /^\/body\/(?:to\/)?([^/]+)/.exec(String(fault.pointer))?.[1];
    return name === undefined ? [] : [{ name, detail: String(fault.detail) }];
  });
}

type FieldProps<Values extends FieldValues, Sent> = Omit<
  TextFieldProps,
  'name' | 'value' | 'onChange' | 'onBlur' | 'error' | 'variant'
> & {
  control: Control<Values, unknown, Sent>;
  name: FieldPath<Values>;
  /** Values to choose from, each with its words. */
  options?: readonly (readonly [value: string | number, words: ReactNode])[];
  /** Its name, where no label stands at it. */
  says?: string;
  /** What is known to be wrong with it before anything is sent. */
  fault?: string | undefined;
};

/** One field: text, or a choice where there are options. */
export function Field<Values extends FieldValues, Sent>({
  control,
  name,
  options,
  says,
  fault: known,
  helperText,
  slotProps,
  ...rest
}: FieldProps<Values, Sent>) {
  const {
    field: { ref, ...field },
    fieldState,
  } = useController({ control, name });
  const fault = fieldState.error?.message ?? known;
  return (
    <TextField
      {...rest}
      {...field}
      value={field.value ?? ''}
      inputRef={ref}
      select={options !== undefined}
      error={fault !== undefined}
      helperText={fault ?? helperText}
      slotProps={{
        ...slotProps,
        htmlInput: { ...(says === undefined ? {} : { 'aria-label': says }), ...slotProps?.htmlInput },
      }}
    >
      {options?.map(([value, words]) => (
        <MenuItem key={value} value={value}>
          {words}
        </MenuItem>
      ))}
    </TextField>
  );
}
