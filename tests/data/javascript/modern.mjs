import { readFileSync } from 'node:fs';
import * as path from 'path';
import dflt, { other as renamed } from './tides.mjs';
export const exported = 4;
export default class Thing { go() { return renamed(2) } }
console.log(path.basename('/a/b'), typeof readFileSync, dflt(3), renamed(exported), new Thing().go());
const later = await Promise.resolve(5); console.log(later);
const { other } = await import('./tides.mjs'); console.log(other(1), import.meta.url.slice(0, 5));
