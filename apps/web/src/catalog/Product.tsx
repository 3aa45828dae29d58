/** One product in the drawer: facts and texts to edit, its claims, where it is listed, its history. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useQuery } from '@tanstack/react-query';
import { type ProductAnswer, api } from '@velvet-shelf/contract';
import { Link, useLocation } from 'react-router';
import { writeAddress } from '../api/address';
import { ask } from '../api/ask';
import { Loaded } from '../design/feedback';
import { Thumb } from '../design/Thumb';
import { plural } from '../design/words';
import { Proposals } from '../enrichment/Proposals';
import { Stock } from '../stock/Stock';
import { History } from './History';
import { OwnValues } from './OwnValues';
import { ProductListings } from './ProductListings';
import { FamilyPlace } from './FamilyPlace';
import { RemoveGoods } from './RemoveGoods';
import { Siblings } from './Siblings';
import { Sources } from './Sources';
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

function Page({ product, tab, onTab, onOpen, onGone, focus }: ProductProps & { product: ProductAnswer }) {
  const isFamily = product.kind === 'family';
  const { search } = useLocation();
  const texts = product.values.filter(({ language }) => language !== null);
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
          <Button
            component={Link}
            to={`/catalog/product/${product.id}?${writeAddress(search, { open: undefined, tab: undefined, attribute: undefined, list: true })}`}
            variant="outlined"
            sx={{ mt: 1, py: 0.2 }}
          >
            Open the whole page
          </Button>
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
          <OwnValues product={product} focus={focus} onStock={() => onTab('stock')} />
          <Box row wrap above={4}>
            <FamilyPlace key={`place ${product.id}`} product={product} onMoved={onOpen} />
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
      {tab === 'listings' && <ProductListings product={product} />}
      {tab === 'stock' && !isFamily && <Stock productId={product.id} />}
      {tab === 'history' && <History id={product.id} />}
    </>
  );
}
