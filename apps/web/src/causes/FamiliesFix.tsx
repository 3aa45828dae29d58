/** Families whose variants do not tell themselves apart: chosen one after another, each put right on its rack in place. */
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { type CauseDetail, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ask } from '../api/ask';
import { RackTab } from '../catalog/product/RackTab';
import { type ProductAddress, productAddress } from '../catalog/product/address';
import { Box } from '../design/Box';
import { Loaded } from '../design/feedback';
import { plural } from '../design/words';

type Families = Extract<CauseDetail['remedy'], { kind: 'families' }>;

export function FamiliesFix({ remedy: { words, families, more } }: { remedy: Families }) {
  const [chosen, setChosen] = useState(families[0]?.id);
  return (
    <>
      <Box as="p" around={[0, 0, 3]}>
        {words}
      </Box>
      <Box row wrap gap={2} below={3} role="group" aria-label="Families">
        {families.map(({ id, title, listings }) => (
          <Button
            key={id}
            variant={id === chosen ? 'contained' : 'outlined'}
            color={id === chosen ? 'primary' : 'inherit'}
            aria-pressed={id === chosen}
            onClick={() => setChosen(id)}
          >
            {title}&nbsp;· {plural(listings, 'listing')}
          </Button>
        ))}
        {more > 0 && (
          <Box as="span" small muted>
            and {plural(more, 'family', 'families')} more
          </Box>
        )}
      </Box>
      {chosen !== undefined && <OnRack key={chosen} id={chosen} />}
    </>
  );
}

function OnRack({ id }: { id: number }) {
  const product = useQuery(ask(api.catalog.product, { params: { id } }));
  const [address, setAddress] = useState<ProductAddress>(() => productAddress.parse({}));
  const navigate = useNavigate();
  return (
    <Loaded query={product}>
      {(family) => (
        <Box framed rounded pad={3} below={3}>
          <Box row below={2}>
            <Box as="h3" grow>
              {family.title}
            </Box>
            <Link to={`/catalog/product/${id}`}>Open its page</Link>
          </Box>
          <RackTab
            family={family}
            address={address}
            onSet={(change) =>
              change.variant === undefined
                ? setAddress({ ...address, ...change })
                : void navigate(`/catalog/product/${id}?variant=${change.variant}&level=variant`)
            }
          />
        </Box>
      )}
    </Loaded>
  );
}
