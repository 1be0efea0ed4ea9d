import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import type { Response } from 'express';

/** Types that a browser shows as they are, and runs nothing of. */
const shown = /^(image\/(png|jpeg|gif|webp|avif|bmp)|video\/\w+|audio\/\w+|text\/plain|application\/pdf)$/;

/** Gives out a file that somebody stored here. Whatever it calls itself, nothing in it runs as a page of the yard. */
export function sendStored(response: Response, file: string, type: string): void {
  const plain = type.split(';')[0]!.trim().toLowerCase();
  response.set({
    'content-type': shown.test(plain) ? plain : 'application/octet-stream',
    'content-disposition': shown.test(plain) ? 'inline' : 'attachment',
    'content-security-policy': "default-src 'none'; sandbox",
    'x-content-type-options': 'nosniff',
  });
  pipeline(createReadStream(file), response).catch(() => response.destroy());
}
