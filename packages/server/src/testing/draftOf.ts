/** A route's draft as an edit of it is sent. */
export const draftOf = <D>({
  draft,
  revision,
}: {
  draft: D;
  revision: number;
}): { definition: D; revision: number } => ({
  definition: draft,
  revision,
});
