import { parseJson, type Json } from '@grammata/core/submission';
import { useState } from 'react';
import { Act, LinesBox } from '../../ui';

/** A box for a document that something is taken from; it closes once that is done. */
export function FromJson({
  label,
  placeholder,
  deed,
  onTake,
  onClose,
}: {
  label: string;
  placeholder: string;
  /** What the button says. */
  deed: string;
  /** Receives the document; returns what is wrong with it. */
  onTake: (document: Json) => string | null;
  onClose: () => void;
}) {
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const take = () => {
    const document = parseJson(text);
    const against = document === undefined ? 'Not valid JSON.' : onTake(document);
    setFault(against);
    if (against === null) onClose();
  };
  return (
    <div className="pt-3">
      <LinesBox
        label={label}
        look="code"
        rows={5}
        autoFocus
        value={text}
        onChange={setText}
        error={fault}
        placeholder={placeholder}
      />
      <p className="mt-1">
        <Act onClick={take}>{deed}</Act>
        <Act className="ml-5" onClick={onClose}>
          Cancel
        </Act>
      </p>
    </div>
  );
}
