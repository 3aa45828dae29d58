/** One product in the drawer: facts and texts to edit, its claims, where it is listed, its history. */
import { Box } from '../design/Box';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useQuery } from '@tanstack/react-query';
import { type ProductAnswer, api } from '@velvet-shelf/contract';
import { Link } from 'react-router';
import { ask } from '../api/ask';
import { Loaded } from '../design/feedback';
import { State } from '../design/State';
import { Thumb } from '../design/Thumb';
import { Line } from '../design/Line';
import { clock, count, plural } from '../design/words';
import { Proposals } from '../enrichment/Proposals';
import { Stock } from '../stock/Stock';
import { Prices } from './Prices';
import { RemoveGoods } from './RemoveGoods';
import { Siblings } from './Siblings';
import { ValueRow } from './ValueRow';

interface ProductProps {
  id: number;
  tab: string;
  onTab(tab: string): void;
  onOpen(id: number): void;
  /** It is no more. */
  onGone(): void;
  /** Attribute to begin editing. */
  focus: string | undefined;
}

export function Product({ id, ...rest }: ProductProps) {
  const product = useQuery(ask(api.catalog.product, { params: { id } }));
  return <Loaded query={product}>{(data) => <Page product={data} id={id} {...rest} />}</Loaded>;
}

/** Who speaks for it, and whether they still list it. */
function Sources({ product }: { product: ProductAnswer }) {
  if (product.sources.length === 0) return null;
  return (
    <Box small above={0.5}>
      {product.sources.map((source, i) => (
        <Box as="span" tone={source.dropped ? 'advice' : undefined} key={source.recordId}>
          {i > 0 && ' · '}
          {source.supplier} {source.key}
          {source.dropped && ' (no longer listed)'}
        </Box>
      ))}
      {product.sources.length > 1 && (
        <>
          {' · '}
          <Link to={`/matching?tab=joined&product=${product.id}`}>side by side</Link>
        </>
      )}
      {' · '}
      <Link to={`/matching/by-hand?a=${product.id}`}>join with…</Link>
    </Box>
  );
}

function Page({ product, tab, onTab, onOpen, onGone, focus }: ProductProps & { product: ProductAnswer }) {
  const isFamily = product.kind === 'family';
  const texts = product.values.filter((value) => value.group === 'Texts');
  const facts = product.values.filter((value) => value.group !== 'Texts');
  const filled = facts.filter((fact) => fact.origin !== 'none' || fact.attribute === focus);
  const bare = facts.filter((fact) => fact.origin === 'none' && fact.attribute !== focus);
  return (
    <>
      <Box row align="start" gap={3.5} padRight={7.5}>
        <Thumb name={product.picture} size={52} />
        <Box grow>
          <h2>{product.title ?? 'No title'}</h2>
          <Box small muted>
            {product.sku ?? (isFamily ? plural(product.siblings.length, 'variant') : 'no SKU')}
            {product.family && <> · {product.family.title}</>}
          </Box>
          <Sources product={product} />
        </Box>
      </Box>
      {(product.family || isFamily) && (
        <ToggleButtonGroup
          exclusive
          size="small"
          value={isFamily ? 'family' : 'variant'}
          sx={{ mt: 1 }}
          aria-label="Level being edited"
          onChange={(_, level: string | null) =>
            level === 'family' && product.family
              ? onOpen(product.family.id)
              : level === 'variant' && product.siblings[0]
                ? onOpen(product.siblings[0].id)
                : undefined
          }
        >
          <ToggleButton value="family" sx={{ py: 0.2 }}>
            Family
          </ToggleButton>
          <ToggleButton value="variant" sx={{ py: 0.2 }}>
            Variant
          </ToggleButton>
        </ToggleButtonGroup>
      )}
      <Tabs
        value={tab}
        onChange={(_, to: string) => onTab(to)}
        variant="scrollable"
        sx={{ borderBottom: '1px solid var(--shelf-palette-line)' }}
      >
        <Tab value="facts" label="Facts" />
        <Tab value="texts" label="Texts" />
        <Tab value="stock" label="Stock" disabled={isFamily} />
        <Tab
          value="family"
          label={isFamily ? 'Variants' : 'Siblings'}
          disabled={product.siblings.length < 2 && !isFamily}
        />
        <Tab value="listings" label="Listed" disabled={isFamily} />
        <Tab value="history" label="History" />
      </Tabs>
      {tab === 'facts' && (
        <>
          <Proposals productId={product.id} />
          {!isFamily && <Prices key={product.id} product={product} />}
          {!isFamily && (
            <Line label="Stock">
              <button type="button" className="value" aria-label="Open stock" onClick={() => onTab('stock')}>
                {count(product.stock)}
              </button>
            </Line>
          )}
          {product.options.map(([axis, value]) => (
            <Line key={axis} label={`Option: ${axis}`}>
              {value}
            </Line>
          ))}
          {filled.map((value) => (
            <ValueRow key={value.attribute} productId={product.id} value={value} editing={value.attribute === focus} />
          ))}
          <Box as="details" above={2.5}>
            <Box as="summary" small muted>
              {plural(bare.length, 'attribute')} without a value
            </Box>
            {bare.map((value) => (
              <ValueRow key={value.attribute} productId={product.id} value={value} editing={false} />
            ))}
          </Box>
          <Box above={4}>
            <RemoveGoods key={product.id} product={product} onDone={onGone} />
          </Box>
        </>
      )}
      {tab === 'texts' &&
        texts.map((value) => (
          <ValueRow
            key={`${value.attribute}@${value.language}`}
            productId={product.id}
            value={value}
            editing={value === texts.find((text) => text.attribute === focus)}
          />
        ))}
      {tab === 'family' && <Siblings product={product} onOpen={onOpen} />}
      {tab === 'listings' &&
        (product.listings.length === 0 ? (
          <Box as="p" muted>
            It is in no channel’s assortment.
          </Box>
        ) : (
          product.listings.map((listing) => (
            <Line key={listing.id} label={listing.place}>
              <Link to={`/listings?open=${listing.id}&place=${listing.placeId}`} className="plain">
                <State is={listing.readiness} />{' '}
                {listing.channelState !== 'none' && <State is={listing.channelState} />}
              </Link>{' '}
              <Box as="span" small muted>
                {listing.findings > 0 && plural(listing.findings, 'finding')}
              </Box>
            </Line>
          ))
        ))}
      {tab === 'stock' && !isFamily && <Stock productId={product.id} />}
      {tab === 'history' && <History id={product.id} />}
    </>
  );
}

function History({ id }: { id: number }) {
  const history = useQuery(ask(api.catalog.history, { params: { id } }));
  return (
    <Loaded query={history}>
      {({ items }) => (
        <>
          {items.map((row) => (
            <Box pad={[2, 0]} line="bottom" textSize={12.5} key={row.id}>
              <Box struck={row.undone}>{row.words}</Box>
              <Box small muted>
                {clock(row.at)} · {row.actor}
              </Box>
              {row.fields.slice(0, 8).map((field) => (
                <Box cut key={field.field}>
                  {field.field}:{' '}
                  <Box as="s" muted>
                    {field.before ?? 'empty'}
                  </Box>{' '}
                  → {field.after ?? 'empty'}
                </Box>
              ))}
            </Box>
          ))}
        </>
      )}
    </Loaded>
  );
}
