import type { ReactNode } from 'react';
import { useController, useFormContext, type FieldPath, type FieldValues } from 'react-hook-form';
import {
  Choice,
  Combobox,
  LinesBox,
  ListBox,
  NumberBox,
  SecretBox,
  TextBox,
  Tick,
  type ChoiceProps,
  type LinesBoxProps,
  type NumberBoxProps,
  type SecretBoxProps,
  type TextBoxProps,
} from '../controls';
import { useShown } from './shown';

/** A field's place in the form: the path in the class that the form sends. */
interface Named<T extends FieldValues> {
  name: FieldPath<T>;
}
type Bound<Props, T extends FieldValues> = Named<T> & Omit<Props, 'value' | 'onChange' | 'error' | 'boxRef' | 'name'>;

function useField<T extends FieldValues>(name: FieldPath<T>) {
  const { control } = useFormContext<T>();
  const { field, fieldState } = useController<T>({ name, control });
  useShown(name);
  return {
    value: field.value as unknown,
    onChange: field.onChange as (value: unknown) => void,
    onBlur: field.onBlur,
    boxRef: field.ref,
    error: fieldState.error?.message ?? null,
  };
}

const textOf = (value: unknown) => (typeof value === 'string' ? value : '');

/** One line of text of a form. */
export function TextField<T extends FieldValues>({ name, ...rest }: Bound<TextBoxProps, T>) {
  const { value, ...field } = useField<T>(name);
  return <TextBox {...rest} {...field} value={textOf(value)} />;
}

/** A number of a form. */
export function NumberField<T extends FieldValues>({ name, ...rest }: Bound<NumberBoxProps, T>) {
  const { value, ...field } = useField<T>(name);
  return <NumberBox {...rest} {...field} value={typeof value === 'number' ? value : null} />;
}

/** One out of a few of a form. */
export function ChoiceField<T extends FieldValues, V extends string = string>({
  name,
  onPick,
  ...rest
}: Bound<ChoiceProps<V>, T> & {
  /** Told of what was chosen, for what follows from it. */
  onPick?: (value: V) => void;
}) {
  const { value, onChange, boxRef, error } = useField<T>(name);
  return (
    <Choice<V>
      {...rest}
      boxRef={boxRef}
      error={error}
      value={textOf(value) as V}
      onChange={next => {
        onChange(next);
        onPick?.(next);
      }}
    />
  );
}

/** One out of many of a form. */
export function PickField<T extends FieldValues>({
  name,
  onPick,
  ...rest
}: Named<T> &
  Omit<Parameters<typeof Combobox>[0], 'value' | 'onPick' | 'error' | 'boxRef'> & {
    /** Told of what was picked, for what follows from it. */
    onPick?: (value: string) => void;
  }) {
  const { value, onChange, boxRef, error } = useField<T>(name);
  return (
    <Combobox
      {...rest}
      boxRef={boxRef}
      error={error}
      value={textOf(value)}
      onPick={next => {
        onChange(next);
        onPick?.(next);
      }}
    />
  );
}

/** Yes or no of a form. */
export function TickField<T extends FieldValues>({
  name,
  ...rest
}: Named<T> & { label: ReactNode; hint?: ReactNode; className?: string }) {
  const { value, onChange, boxRef } = useField<T>(name);
  return <Tick {...rest} boxRef={boxRef} checked={value === true} onChange={onChange} />;
}

/** A secret of a form; nothing typed is undefined, and the stored one stays. */
export function SecretField<T extends FieldValues>({
  name,
  isText = false,
  ...rest
}: Bound<SecretBoxProps, T> & {
  /** Nothing typed is an empty text. */
  isText?: boolean;
}) {
  const { value, onChange, ...field } = useField<T>(name);
  const tell = (next: string) => onChange(next === '' && !isText ? undefined : next);
  return <SecretBox {...rest} {...field} value={textOf(value)} onChange={tell} />;
}

/** Several lines of text of a form. */
export function LinesField<T extends FieldValues>({ name, ...rest }: Bound<LinesBoxProps, T>) {
  const { value, ...field } = useField<T>(name);
  return <LinesBox {...rest} {...field} value={textOf(value)} />;
}

/** A list of a form, written with commas between. */
export function ListField<T extends FieldValues>({ name, ...rest }: Bound<TextBoxProps, T>) {
  const { value, onChange, ...field } = useField<T>(name);
  const items = Array.isArray(value) ? (value as string[]) : [];
  return <ListBox {...rest} {...field} items={items} onChange={onChange} />;
}
