import { useState, type InputHTMLAttributes, type ReactNode, type Ref, type TextareaHTMLAttributes } from 'react';
import { Labelled, type ControlTexts } from './Labelled';
import { numberIn, numberText, type WhenEmpty } from './numbers';

/** How what is written looks: as the interface, as code, or as a title. */
type Look = 'plain' | 'code' | 'lead';
const looks: Record<Look, string> = { plain: '', code: 'font-mono text-small', lead: 'font-serif text-lead' };

type Native<E> = Omit<InputHTMLAttributes<E>, 'value' | 'onChange' | 'className' | 'id'>;

export interface TextBoxProps extends ControlTexts, Native<HTMLInputElement> {
  value: string;
  onChange: (value: string) => void;
  look?: Look;
  boxRef?: Ref<HTMLInputElement>;
  /** Of the box itself; `className` is that of all. */
  boxClass?: string;
}

/** One line of text. */
export function TextBox(props: TextBoxProps) {
  const {
    label,
    hint,
    error,
    className,
    isBare,
    value,
    onChange,
    look = 'plain',
    boxRef,
    boxClass = '',
    ...rest
  } = props;
  return (
    <Labelled {...{ label, hint, error, className, isBare }}>
      {ids => (
        <input
          {...ids}
          {...rest}
          ref={boxRef}
          className={`write ${looks[look]} ${boxClass}`}
          value={value}
          onChange={event => onChange(event.target.value)}
        />
      )}
    </Labelled>
  );
}

export interface NumberBoxProps extends ControlTexts, Omit<Native<HTMLInputElement>, 'type'> {
  /** NaN while what is written is no number. */
  value: number | null;
  onChange: (value: number | null) => void;
  whenEmpty?: WhenEmpty;
  /** How many of the value's units one of those that are written is. */
  per?: number;
  boxRef?: Ref<HTMLInputElement>;
}

/** A number. What is written stays as it was written, even where it is none. */
export function NumberBox({ value, onChange, whenEmpty = 'missing', per = 1, ...rest }: NumberBoxProps) {
  const [text, setText] = useState(() => numberText(value, per));
  const [told, setTold] = useState(value);
  if (!Object.is(value, told)) {
    // It was changed from outside.
    setTold(value);
    setText(numberText(value, per));
  }
  return (
    <TextBox
      {...rest}
      inputMode="decimal"
      value={text}
      onChange={next => {
        const number = numberIn(next, whenEmpty, per);
        setText(next);
        setTold(number);
        onChange(number);
      }}
    />
  );
}

export interface SecretBoxProps extends ControlTexts, Omit<Native<HTMLInputElement>, 'type'> {
  value: string;
  onChange: (value: string) => void;
  /** True where one is stored, which stays when nothing is typed. */
  isStored: boolean;
  boxRef?: Ref<HTMLInputElement>;
}

/** A secret: typed, never shown. */
export const SecretBox = ({ isStored, hint, ...rest }: SecretBoxProps) => (
  <TextBox
    autoComplete="off"
    spellCheck={false}
    {...rest}
    type="password"
    look="code"
    placeholder={isStored ? '••••••' : undefined}
    hint={hint ?? (isStored ? 'Stored. Leave empty to keep it.' : 'Stored encrypted, never shown again.')}
  />
);

export interface LinesBoxProps
  extends ControlTexts, Omit<TextareaHTMLAttributes<HTMLTextAreaElement>, 'value' | 'onChange' | 'className' | 'id'> {
  value: string;
  onChange: (value: string) => void;
  look?: Look;
  boxRef?: Ref<HTMLTextAreaElement>;
}

/** Several lines of text. */
export function LinesBox(props: LinesBoxProps) {
  const { label, hint, error, className, isBare, value, onChange, look = 'code', boxRef, ...rest } = props;
  return (
    <Labelled {...{ label, hint, error, className, isBare }}>
      {ids => (
        <textarea
          spellCheck={false}
          {...ids}
          {...rest}
          ref={boxRef}
          className={`write ${looks[look]}`}
          value={value}
          onChange={event => onChange(event.target.value)}
        />
      )}
    </Labelled>
  );
}

export interface Option<T extends string = string> {
  value: T;
  label: string;
  /** Options with the same one stand together under it. */
  group?: string;
}

/** What can be chosen: words by value, or options one by one. */
export type Options<T extends string = string> = Partial<Record<T, string>> | readonly Option<T>[];

export const optionsOf = <T extends string>(options: Options<T>): readonly Option<T>[] =>
  Array.isArray(options)
    ? (options as readonly Option<T>[])
    : Object.entries<string | undefined>(options as Record<T, string | undefined>).flatMap(([value, label]) =>
        // One that is not offered here is undefined.
        label === undefined ? [] : [{ value: value as T, label }],
      );

export interface ChoiceProps<T extends string> extends ControlTexts {
  value: T;
  onChange: (value: T) => void;
  options: Options<T>;
  /** The words for choosing nothing; without them something has to be chosen. */
  none?: string;
  look?: Look;
  boxClass?: string;
  boxRef?: Ref<HTMLSelectElement>;
  disabled?: boolean;
}

/** One out of a few. */
export function Choice<T extends string>(props: ChoiceProps<T>) {
  const {
    label,
    hint,
    error,
    className,
    isBare,
    value,
    onChange,
    options,
    none,
    look = 'plain',
    boxClass = '',
  } = props;
  const all = optionsOf(options);
  const groups = [...new Set(all.map(each => each.group))];
  const shown = (each: Option<T>) => (
    <option key={each.value} value={each.value}>
      {each.label}
    </option>
  );
  return (
    <Labelled {...{ label, hint, error, className, isBare }}>
      {ids => (
        <select
          {...ids}
          ref={props.boxRef}
          disabled={props.disabled}
          className={`write ${looks[look]} ${boxClass}`}
          value={value}
          onChange={event => onChange(event.target.value as T)}
        >
          {none !== undefined && <option value="">{none}</option>}
          {groups.map(group => {
            const own = all.filter(each => each.group === group).map(shown);
            return group === undefined ? (
              own
            ) : (
              <optgroup key={group} label={group}>
                {own}
              </optgroup>
            );
          })}
        </select>
      )}
    </Labelled>
  );
}

/** Yes or no. */
export function Tick({
  label,
  hint,
  checked,
  onChange,
  className = '',
  boxRef,
}: {
  label: ReactNode;
  hint?: ReactNode;
  checked: boolean;
  onChange: (checked: boolean) => void;
  className?: string;
  boxRef?: Ref<HTMLInputElement>;
}) {
  return (
    <label className={`flex items-baseline gap-2 ${className}`}>
      <input
        ref={boxRef}
        type="checkbox"
        className="tick"
        checked={checked}
        onChange={event => onChange(event.target.checked)}
      />
      <span>
        {label}
        {hint && <span className="block text-small text-ink-3">{hint}</span>}
      </span>
    </label>
  );
}

/** One out of a few, all of them in sight. */
export function Radios<T extends string>({
  legend,
  name,
  value,
  onChange,
  options,
  className = 'flex flex-wrap gap-x-4 gap-y-1',
}: {
  /** Read out only. */
  legend: string;
  name: string;
  value: T;
  onChange: (value: T) => void;
  options: Options<T>;
  className?: string;
}) {
  return (
    <fieldset className={className}>
      <legend className="sr-only">{legend}</legend>
      {optionsOf(options).map(each => (
        <label key={each.value} className={`flex items-baseline gap-2 ${each.value === value ? '' : 'text-ink-2'}`}>
          <input
            type="radio"
            className="tick"
            name={name}
            checked={each.value === value}
            onChange={() => onChange(each.value)}
          />
          {each.label}
        </label>
      ))}
    </fieldset>
  );
}

/** A word to act on that opens the choice of a file. */
export const FileAct = ({ onFile, ...rest }: ChoosingAct & { accept?: string; onFile: (file: File) => void }) => (
  <ChooseAct {...rest} onFiles={([file]) => file && onFile(file)} />
);

/** A word to act on that opens the choice of a folder; gives all files in it. */
export const FolderAct = ({ onFiles, ...rest }: ChoosingAct & { onFiles: (files: File[]) => void }) => (
  <ChooseAct {...rest} folder onFiles={onFiles} />
);

interface ChoosingAct {
  children: string;
  disabled?: boolean;
  className?: string;
}

const ChooseAct = ({
  children,
  accept,
  folder = false,
  onFiles,
  disabled = false,
  className = '',
}: ChoosingAct & { accept?: string; folder?: boolean; onFiles: (files: File[]) => void }) => (
  <label
    className={`act cursor-pointer focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-oxide ${className}`}
  >
    {children}
    <input
      type="file"
      className="sr-only"
      accept={accept}
      disabled={disabled}
      // The one way to choose a folder (HTML Living Standard, File and Directory Entries API).
      {...(folder && { webkitdirectory: '' })}
      onChange={event => {
        const files = [...(event.target.files ?? [])];
        // The same file can be chosen once more.
        event.target.value = '';
        if (files.length > 0) onFiles(files);
      }}
    />
  </label>
);
