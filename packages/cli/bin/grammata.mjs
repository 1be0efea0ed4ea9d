#!/usr/bin/env node
/** Starts the bundled command line; makes the bundle anew when its sources are newer. */
import { bundle, bundleIsStale } from './staleness.mjs';

if (await bundleIsStale()) await (await import('./build.mjs')).buildBundle();
await import(bundle);
