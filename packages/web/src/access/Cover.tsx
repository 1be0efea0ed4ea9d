import type { ReactNode } from 'react';

/** The page before somebody is in. */
export function Cover({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="mx-auto mt-[16vh] max-w-sm px-6">
      <p className="font-serif text-[1.1875rem] font-semibold italic">
        <span className="text-oxide">G</span>rammata
      </p>
      <h1 className="mt-8 border-b border-ink pb-3">{title}</h1>
      {children}
    </main>
  );
}
