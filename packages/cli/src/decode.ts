import { decode } from '@grammata/core/decode';
import type { Submission } from '@grammata/core/submission';
import { bytesOf, fileAndOptions, type Command } from './command';

/** `grammata decode`: what a message body says. */
export const decodeFile: Command = async args => {
  const { file, values } = fileAndOptions(args, { type: { type: 'string' }, query: { type: 'string' } });
  const { submissions, notes } = decode(
    await bytesOf(file),
    values.type ?? null,
    (values.query ?? '').replace(/^\?/, ''),
  );
  return { submissions: submissions.map(stable), notes };
};

/** The members of a submission that scripts may rely on. */
const stable = ({ form, id, submittedAt, fields, files, meta }: Submission) => ({
  form,
  id,
  submittedAt,
  fields,
  files: files.map(({ field, name, type, size, url }) => ({ field, name, type, size, url })),
  meta,
});
