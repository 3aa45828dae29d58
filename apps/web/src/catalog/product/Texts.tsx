/** Texts of a product, one language at a time: written as they will be seen, counted against every channel that takes them. */
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useQuery } from '@tanstack/react-query';
import { type ProductAnswer, type ProductValue, api } from '@velvet-shelf/contract';
import { plainText, sayLanguage } from '@velvet-shelf/core/values';
import { useState } from 'react';
import { ask } from '../../api/ask';
import { Box } from '../../design/Box';
import { RichText } from '../../design/RichText';
import { plural } from '../../design/words';
import type { Draft } from './draft';

/** What a channel takes of a text, in characters. */
interface Taking {
  place: string;
  atMost: number;
}

export function Texts({ product, draft }: { product: ProductAnswer; draft: Draft }) {
  const texts = product.values.filter(({ language }) => language !== null);
  const languages = [...new Set(texts.flatMap(({ language }) => language ?? []))];
  const [chosen, setChosen] = useState(languages[0]);
  const asked = useQuery(ask(api.asked.ofProduct, { params: { id: product.id } }));
  const writtenOf = (value: ProductValue) => draft.written(goodsOf(product, value), slotOf(value)) ?? value.text ?? '';
  const missing = (language: string) =>
    texts.filter((value) => value.language === language && isWritten(product, value) && writtenOf(value) === '').length;
  const takingOf = ({ attribute, language }: ProductValue): Taking[] =>
    (asked.data?.lines ?? [])
      .filter((line) => line.attribute === attribute && line.language === language)
      .flatMap(({ asks }) => asks.flatMap(({ place, atMost }) => (atMost === null ? [] : [{ place, atMost }])));
  return (
    <>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={chosen}
        aria-label="Language"
        onChange={(_, to: string | null) => to && setChosen(to)}
        sx={{ flexWrap: 'wrap', mb: 1.5 }}
      >
        {languages.map((language) => (
          <ToggleButton key={language} value={language} sx={{ py: 0.3 }}>
            {sayLanguage(language)}
            {missing(language) > 0 && (
              <Box as="span" small tone="blocked" before={1.5}>
                {missing(language)} missing
              </Box>
            )}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {texts
        .filter(({ language }) => language === chosen)
        .map((value) => (
          <Text
            key={`${product.id} ${slotOf(value)}`}
            product={product}
            value={value}
            text={writtenOf(value)}
            taking={takingOf(value)}
            draft={draft}
          />
        ))}
    </>
  );
}

const slotOf = ({ attribute, language }: ProductValue): string => `${attribute}@${language ?? ''}`;

/** What is the family’s is written to the family, whoever of it is looked at. */
const goodsOf = (product: ProductAnswer, { level }: ProductValue): number[] => [
  level === 'family' ? (product.family?.id ?? product.id) : product.id,
];

/** What each variant has of its own is not written over all of them here. */
const isWritten = ({ kind }: ProductAnswer, { level }: ProductValue): boolean =>
  kind !== 'family' || level === 'family';

function Text({
  product,
  value,
  text,
  taking,
  draft,
}: {
  product: ProductAnswer;
  value: ProductValue;
  text: string;
  taking: readonly Taking[];
  draft: Draft;
}) {
  const label = `${value.label}, ${sayLanguage(value.language ?? '')}`;
  const goods = goodsOf(product, value);
  const onWrite = (to: string) => draft.write(goods, slotOf(value), to, value.text ?? '');
  const fault = draft.faultOf(goods, slotOf(value));
  return (
    <Box as="section" below={4} aria-label={label}>
      <Box row align="baseline" below={1}>
        <h2>{value.label}</h2>
        {product.kind === 'variant' && (
          <Box as="span" small muted>
            {value.level === 'family' ? 'of the whole family' : 'of this variant'}
          </Box>
        )}
        <Box as="span" grow />
        <Box as="span" small muted>
          {value.claims.find(({ wins }) => wins)?.from}
        </Box>
      </Box>
      {!isWritten(product, value) ? (
        <Box muted>{value.shown ?? 'none'} · each variant has its own: choose one on the rack</Box>
      ) : value.type === 'richText' ? (
        <RichText label={label} text={text} onWrite={onWrite} />
      ) : (
        <TextField
          fullWidth
          multiline
          maxRows={6}
          value={text}
          error={fault !== undefined}
          onChange={({ target }) => onWrite(target.value)}
          slotProps={{ htmlInput: { 'aria-label': label } }}
        />
      )}
      {fault !== undefined && (
        <Box small tone="blocked" role="status">
          {fault}
        </Box>
      )}
      {isWritten(product, value) && <Counts text={plainText(text)} taking={taking} />}
    </Box>
  );
}

/** How long it is, and how much of it each channel takes. */
function Counts({ text, taking }: { text: string; taking: readonly Taking[] }) {
  const length = [...text].length;
  const words = text.match(/[\p{L}\p{N}]+/gu)?.length ?? 0;
  return (
    <Box row wrap small muted above={0.5} gap={[0, 3]}>
      <span>
        {plural(length, 'character')}, {plural(words, 'word')}
      </span>
      {taking.map(({ place, atMost }) => (
        <Box as="span" key={place} tone={length > atMost ? 'blocked' : 'inherit'}>
          {place}:{' '}
          {length > atMost ? `${length - atMost} more than its ${atMost}` : `${atMost - length} left of ${atMost}`}
        </Box>
      ))}
    </Box>
  );
}
