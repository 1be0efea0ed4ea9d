import { asText, type Json } from '@grammata/core/submission';
import { isProblem, type Problem } from '@grammata/core/transform';

/** A value between steps. Lists show their items apart. */
export function Shown({ value }: { value: Json | Problem }) {
  if (isProblem(value))
    return (
      <span className="font-serif text-crimson">
        <span aria-hidden className="mr-1 font-mono font-bold">
          !
        </span>
        {value.message}
      </span>
    );
  if (value === null || value === '') return <span className="font-mono text-small text-ink-3">blank</span>;
  const items = Array.isArray(value) ? value : [value];
  return (
    <span className="min-w-0 font-mono text-small whitespace-pre-wrap [overflow-wrap:anywhere]">
      {items.length === 0 && <span className="text-ink-3">empty list</span>}
      {items.map((item, index) => (
        <span key={index}>
          {index > 0 && <span className="text-ink-3">, </span>}
          <span className={Array.isArray(value) ? 'bg-ochre-wash' : ''}>
            {typeof item === 'object' && item !== null && 'name' in item ? asText(item.name) : asText(item)}
          </span>
        </span>
      ))}
      {typeof value === 'number' && <span className="ml-2 font-sans text-fine text-ink-3">number</span>}
    </span>
  );
}
