import { lower, sentence, upper } from './case.js';
import { markup } from './markup.js';
import type { CleanUp } from './model.js';
import { spaces } from './spaces.js';
import { typed } from './typed.js';

export type { CleanUp } from './model.js';
export const cleanUps: readonly CleanUp[] = [spaces, sentence, upper, lower, markup, typed];
