import type { Json } from '@grammata/core/submission';
import { useState, type ReactNode } from 'react';
import { Radios } from './controls';
import { PlaceTree } from './places';

/** A real answer, and what a place in it may be: one says which, and points. */
export function PointAt<Role extends string>({
  name,
  roles,
  first,
  document,
  tags,
  onPoint,
  children,
}: {
  /** Tells its choices from those of another on the page. */
  name: string;
  roles: readonly { value: Role; label: string }[];
  /** What a place means until somebody chooses. */
  first: Role;
  document: Json;
  /** What places are already, by their pointers. */
  tags: Map<string, string>;
  /** Takes a place as what it is; gives back what is against it. */
  onPoint: (role: Role, pointer: string) => string | null;
  children?: ReactNode;
}) {
  const [role, setRole] = useState<Role>(first);
  const [refusal, setRefusal] = useState<string | null>(null);
  return (
    <div className="mt-2 grid gap-x-6 gap-y-2 sm:grid-cols-[15rem_1fr]">
      <div>
        <Radios
          legend="Meaning of a place"
          name={name}
          className="space-y-0.5"
          value={role}
          onChange={next => {
            setRole(next);
            setRefusal(null);
          }}
          options={roles}
        />
        {refusal && (
          <p role="alert" className="mt-1 text-crimson">
            ! {refusal}
          </p>
        )}
        {children}
      </div>
      <PlaceTree
        label="Response"
        document={document}
        tags={tags}
        onPoint={pointer => setRefusal(onPoint(role, pointer))}
      />
    </div>
  );
}
