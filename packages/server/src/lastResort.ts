import type { Logger } from 'pino';

/** ms that an orderly stop may take before the process ends anyway. */
const LONGEST_STOP = 10_000;

/**
 * The last resort for an error that nothing caught: it is told, and the process stops in order, so that what is under way is
 * let go of as at any other stop. Everything that was acknowledged is on disk; the next start takes it up.
 */
export function atLast(
  log: Pick<Logger, 'fatal'>,
  stop: () => Promise<void>,
  exit: (code: number) => void = process.exit,
) {
  let isStopping = false;
  return (error: unknown): void => {
    log.fatal({ err: error }, 'Unexpected error: Grammata stops. Please report this.');
    if (isStopping) return;
    isStopping = true;
    setTimeout(() => exit(1), LONGEST_STOP).unref();
    stop().then(
      () => exit(1),
      () => exit(1),
    );
  };
}
