/** A field that chooses one or several of a long list by typing: countries, languages, currencies, categories. */
import Autocomplete from '@mui/material/Autocomplete';
import Chip from '@mui/material/Chip';
import TextField from '@mui/material/TextField';
import { type ReactNode, useMemo } from 'react';
import { type Control, type FieldPath, type FieldValues, useController } from 'react-hook-form';

export interface Choice {
  code: string;
  name: string;
}

interface PickProps<Values extends FieldValues, Sent> {
  control: Control<Values, unknown, Sent>;
  name: FieldPath<Values>;
  label: string;
  choices: readonly Choice[];
  /** Several, in the order they are chosen. */
  several?: boolean;
  /** What is typed and on no list, as its code; undefined where it is none. */
  read?: (text: string) => string | undefined;
  /** The code is shown before the name. */
  showsCode?: boolean;
  helperText?: ReactNode;
  required?: boolean;
}

export function Pick<Values extends FieldValues, Sent>({
  control,
  name,
  label,
  choices,
  several = false,
  read,
  showsCode = false,
  helperText,
  required = false,
}: PickProps<Values, Sent>) {
  const { field, fieldState } = useController({ control, name });
  const names = useMemo(() => new Map(choices.map((choice) => [choice.code, choice.name])), [choices]);
  const say = (code: string) =>
    showsCode && names.has(code) ? `${code} · ${names.get(code)}` : (names.get(code) ?? code);
  /** Of a choice, or of what was typed in full. */
  const codeOf = (typed: string) => {
    const sought = typed.trim().toLowerCase();
    const named = names.has(typed) ? typed : choices.find((choice) => choice.name.toLowerCase() === sought)?.code;
    return named ?? read?.(typed) ?? typed;
  };
  const fault = faultIn(fieldState.error);
  const options = useMemo(() => choices.map(({ code }) => code), [choices]);
  const input = (params: object) => (
    <TextField
      {...params}
      label={label}
      required={required}
      inputRef={field.ref}
      error={fault !== undefined}
      helperText={fault ?? helperText}
    />
  );
  const common = {
    options,
    getOptionLabel: say,
    freeSolo: read !== undefined,
    autoHighlight: true,
    size: 'small' as const,
    onBlur: field.onBlur,
    renderInput: input,
    // Of hundreds the first that fit are enough to go on typing.
    filterOptions: (codes: string[], { inputValue }: { inputValue: string }) => {
      const sought = inputValue.trim().toLowerCase();
      return codes
        .filter((code) => say(code).toLowerCase().includes(sought) || code.toLowerCase().startsWith(sought))
        .slice(0, 60);
    },
  };
  if (!several)
    return (
      <Autocomplete
        {...common}
        value={field.value || null}
        onChange={(_, code) => field.onChange(code === null ? '' : codeOf(code))}
      />
    );
  return (
    <Autocomplete
      {...common}
      multiple
      disableCloseOnSelect
      value={field.value ?? []}
      onChange={(_, codes) => field.onChange(codes.map(codeOf))}
      renderValue={(codes, itemProps) =>
        codes.map((code, index) => {
          const { key, ...props } = itemProps({ index });
          return <Chip key={key} size="small" label={say(code)} {...props} />;
        })
      }
    />
  );
}

/** A fault of the whole, or of one of those chosen. */
function faultIn(error: unknown): string | undefined {
  if (typeof error !== 'object' || error === null) return undefined;
  if ('message' in error && typeof error.message === 'string') return error.message;
  return Object.values(error)
    .map(faultIn)
    .find((message) => message !== undefined);
}
