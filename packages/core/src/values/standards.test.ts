import { describe, expect, it } from 'vitest';
import {
  countries,
  currencies,
  isCountry,
  isTimeZone,
  languages,
  readLanguage,
  sayLanguage,
  timeZones,
} from './index.js';

describe('countries, languages, currencies and time zones', () => {
  it('are those of the standards, and none that is no more', () => {
    expect(countries().length).toBeGreaterThan(240);
    expect(isCountry('CL')).toBe(true);
    for (const none of ['DD', 'YU', 'EU', 'ZZ', 'cl', 'C', '', 'CHL']) expect(isCountry(none), none).toBe(false);
    expect(currencies().find(({ code }) => code === 'CLP')?.name).toBe('Chilean Peso');
    expect(timeZones()).toContain('America/Santiago');
    expect(isTimeZone('America/Santiago')).toBe(true);
    for (const none of ['Mars/Base', '']) expect(isTimeZone(none), none).toBe(false);
  });
  it('are read as BCP 47 writes them', () => {
    expect(readLanguage('DE-at')).toBe('de-AT');
    expect(readLanguage(' zh-hant-tw ')).toBe('zh-Hant-TW');
    for (const none of ['', 'x', 'deutsch!', 'xq', '12']) expect(readLanguage(none), none).toBeUndefined();
    expect(sayLanguage('da-DK')).toBe('Danish (Denmark)');
  });
  it('are offered where most speak them, and where the market is', () => {
    const tags = languages('CL').map(({ code }) => code);
    expect(tags).toEqual(expect.arrayContaining(['es-ES', 'es-CL', 'da-DK']));
    expect(new Set(tags).size).toBe(tags.length);
  });
});
