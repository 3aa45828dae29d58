/** The page of a product: its rack, texts, pictures, listings and history, beside everything any channel asks of it. */
import Button from '@mui/material/Button';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useQuery } from '@tanstack/react-query';
import { type KeyboardEvent, useEffect, useMemo, useRef } from 'react';
import { type ProductAnswer, api } from '@velvet-shelf/contract';
import { Link, Navigate, useLocation, useNavigate, useParams } from 'react-router';
import { useAddress, writeAddress } from '../../api/address';
import { ask } from '../../api/ask';
import { Box } from '../../design/Box';
import { Leaving } from '../../design/Leaving';
import { Loaded, useTell } from '../../design/feedback';
import { Thumb } from '../../design/Thumb';
import { plural } from '../../design/words';
import { Stock } from '../../stock/Stock';
import { FamilyPlace } from '../FamilyPlace';
import { History } from '../History';
import { ProductListings } from '../ProductListings';
import { RemoveGoods } from '../RemoveGoods';
import { Sources } from '../Sources';
import { Asked, AskedFoot } from './Asked';
import { OwnValues } from '../OwnValues';
import { Pictures } from './Pictures';
import { RackTab } from './RackTab';
import { Texts } from './Texts';
import { type ProductAddress, productAddress } from './address';
import { pictureColumns, useDraft } from './draft';
import { type Beside, useBeside } from './beside';

export function ProductPage() {
  const id = Number(useParams().id);
  const { search } = useLocation();
  const [address, set] = useAddress(productAddress);
  const product = useQuery(ask(api.catalog.product, { params: { id } }));
  const beside = useBeside(id, address);
  return (
    <Box grow scroll>
      <Loaded query={product}>
        {(data) =>
          data.family ? (
            <Navigate
              replace
              to={`/catalog/product/${data.family.id}?${writeAddress(search, { variant: id, level: 'variant' })}`}
            />
          ) : (
            <Page product={data} address={address} onSet={set} beside={beside} key={id} />
          )
        }
      </Loaded>
    </Box>
  );
}

interface PageProps {
  product: ProductAnswer;
  address: ProductAddress;
  onSet: (change: Partial<ProductAddress>, how?: { replace: boolean }) => void;
  beside: Beside;
}

function Page({ product, address, onSet, beside }: PageProps) {
  const navigate = useNavigate();
  const tell = useTell();
  const isFamily = product.kind === 'family';
  const chosen = isFamily ? product.siblings.find(({ id }) => id === address.variant) : undefined;
  const variant = useQuery({ ...ask(api.catalog.product, { params: { id: chosen?.id ?? 0 } }), enabled: !!chosen });
  const columns = useQuery({ ...ask(api.sheet.columns), staleTime: 300_000 });
  const written = useMemo(
    () => [...(columns.data?.items ?? []), ...pictureColumns([product, variant.data])],
    [columns.data, product, variant.data],
  );
  const draft = useDraft(written);
  const asksVariant = chosen !== undefined && address.level === 'variant';
  const looked = asksVariant ? variant.data : product;
  const tab = address.tab ?? (isFamily ? 'rack' : 'values');
  /** Where to go once all is saved. */
  const onward = useRef<string>(undefined);
  const canSave = draft.values > 0 && !draft.hasFaults && !draft.isSaving && draft.insist === undefined;
  const save = async () => {
    onward.current = beside.next;
    try {
      await draft.save();
      tell('Saved');
    } catch {
      // Why it was refused stands at the foot.
      onward.current = undefined;
    }
  };
  // Once nothing is unsaved any more: else one would be asked whether to leave it.
  const { values: unsaved } = draft;
  useEffect(() => {
    const to = onward.current;
    if (to === undefined || unsaved > 0) return;
    onward.current = undefined;
    void navigate(to);
  }, [unsaved, navigate]);
  const name = chosen && (chosen.options.map(([, value]) => value).join(', ') || (chosen.sku ?? 'variant'));
  return (
    <Box
      row
      align="stretch"
      gap={0}
      high="100%"
      onKeyDown={(event: KeyboardEvent) => {
        const beyond = event.key === 'ArrowUp' ? beside.before : event.key === 'ArrowDown' ? beside.next : undefined;
        if (event.altKey && beyond !== undefined) {
          event.preventDefault();
          void navigate(beyond);
        } else if (event.ctrlKey && event.key === 'Enter' && canSave) {
          event.preventDefault();
          void save();
        }
      }}
    >
      <Box
        as="section"
        col
        wide={600}
        fixed
        scroll
        line="right"
        pad={[3.5, 5, 5]}
        aria-label={product.title ?? 'Product'}
      >
        <Head product={product} beside={beside} />
        <Tabs
          value={tab}
          onChange={(_, to: ProductAddress['tab']) => onSet({ tab: to })}
          variant="scrollable"
          sx={{ borderBottom: '1px solid var(--shelf-palette-line)', mb: 1.5, flex: 'none' }}
        >
          {isFamily && <Tab value="rack" label="Rack" />}
          <Tab value="values" label="Values" />
          <Tab value="texts" label="Texts" />
          <Tab value="pictures" label="Pictures" />
          <Tab value="stock" label="Stock" disabled={isFamily && !chosen} />
          <Tab value="listings" label="Listings" disabled={isFamily && !chosen} />
          <Tab value="history" label="History" />
        </Tabs>
        {isFamily && tab !== 'rack' && chosen && (
          <Box small muted below={2}>
            of {asksVariant ? name : 'the family'}
          </Box>
        )}
        {tab === 'rack' && isFamily && <RackTab family={product} address={address} onSet={onSet} />}
        {tab === 'rack' && chosen && variant.data && (
          <Box as="section" above={4} aria-label={`Values of ${name}`}>
            <h2>{name}</h2>
            <Box small muted below={1}>
              What differs from the family is here; the rest is shared with it.
            </Box>
            <OwnValues product={variant.data} onStock={() => onSet({ tab: 'stock' })} onlyOwn />
          </Box>
        )}
        {tab === 'values' && looked && (
          <>
            <OwnValues product={looked} onStock={() => onSet({ tab: 'stock' })} />
            <Box row wrap above={4}>
              <FamilyPlace
                key={`place ${looked.id}`}
                product={looked}
                onMoved={(to) => void navigate(`/catalog/product/${to}`)}
              />
              <RemoveGoods
                key={looked.id}
                product={looked}
                onDone={() =>
                  looked.id === product.id
                    ? void navigate(beside.back)
                    : onSet({ variant: undefined, level: undefined })
                }
              />
            </Box>
          </>
        )}
        {tab === 'texts' && looked && <Texts key={looked.id} product={looked} draft={draft} />}
        {tab === 'pictures' && <Pictures product={looked ?? product} draft={draft} />}
        {tab === 'stock' && <Stock productId={chosen?.id ?? product.id} />}
        {tab === 'listings' && (chosen ? variant.data : product) && (
          <ProductListings product={(chosen ? variant.data : product) ?? product} />
        )}
        {tab === 'history' && <History id={(looked ?? product).id} />}
      </Box>
      <Box as="section" col grow surface="card" minWide={0} aria-label="Everything any channel asks">
        <Box grow scroll pad={[3.5, 5]}>
          <Box row align="baseline" wrap gap={[0, 3]}>
            <h2>Everything any channel asks</h2>
            <Box as="span" small muted>
              once, for all of them
            </Box>
            {chosen && (
              <ToggleButtonGroup
                exclusive
                size="small"
                value={address.level}
                aria-label="Level being edited"
                onChange={(_, level: ProductAddress['level'] | null) => level && onSet({ level })}
              >
                <ToggleButton value="family" sx={{ py: 0.2 }}>
                  Family
                </ToggleButton>
                <ToggleButton value="variant" sx={{ py: 0.2 }}>
                  {name}
                </ToggleButton>
              </ToggleButtonGroup>
            )}
          </Box>
          {looked && columns.data && (
            <Asked key={looked.id} product={looked} columns={columns.data.items} draft={draft} />
          )}
        </Box>
        {draft.values > 0 && (
          <AskedFoot draft={draft} canSave={canSave} onSave={() => void save()} next={beside.next && 'next product'} />
        )}
      </Box>
      <Leaving unsaved={draft.values} what="value" />
    </Box>
  );
}

function Head({ product, beside: { before, next, words, back } }: { product: ProductAnswer; beside: Beside }) {
  return (
    <Box below={2}>
      <Box row small muted>
        <Link to={back} className="plain">
          Catalog
        </Link>
        {product.category.map((category) => (
          <span key={category}>· {category}</span>
        ))}
        <Box as="span" grow />
        {words && <span>{words}</span>}
        {before && (
          <Button component={Link} to={before} color="inherit" sx={{ py: 0 }}>
            Before
          </Button>
        )}
        {next && (
          <Button component={Link} to={next} color="inherit" sx={{ py: 0 }}>
            Next
          </Button>
        )}
      </Box>
      <Box row align="start" gap={3.5}>
        <Thumb name={product.picture} size={46} />
        <Box grow>
          <h1>{product.title ?? 'No title'}</h1>
          <Box small muted>
            {product.kind === 'family'
              ? `family of ${plural(product.siblings.length, 'variant')}`
              : (product.sku ?? 'no SKU')}
          </Box>
          <Sources product={product} />
        </Box>
        <Button component={Link} to={`/catalog/new?like=${product.id}`} color="secondary">
          Another like it
        </Button>
      </Box>
    </Box>
  );
}
