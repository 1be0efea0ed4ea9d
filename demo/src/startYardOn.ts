import { startYard, type Yard } from '@grammata/practice';
import { ConfigFault } from '@grammata/server';

/** The practice yard on a port, 4700 unless told otherwise, and its mail server on the next. Throws ConfigFault where it can't run. */
export async function startYardOn(host: string, portText: string | undefined, dataDir: string): Promise<Yard> {
  const port = Number(portText ?? 4700);
  try {
    return await startYard({ host, port, dataDir });
  } catch (error) {
    const { code, message, port: taken = port } = error as NodeJS.ErrnoException & { port?: number };
    if (code === 'EADDRINUSE')
      throw new ConfigFault(
        `Port ${taken} on ${host} is in use. Stop what runs there, or set GRAMMATA_PRACTICE_PORT to another.`,
      );
    if (['EACCES', 'EPERM', 'EROFS', 'ENOENT', 'ENOTDIR', 'ENOSPC'].includes(code ?? ''))
      throw new ConfigFault(`The folder ${dataDir} can't be written: ${message}. Set GRAMMATA_DATA to one that can.`);
    throw error;
  }
}
