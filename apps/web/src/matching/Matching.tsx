/** Matching: pairs that look like the same goods, goods that several sources describe, and whose word counts. */
import { Box } from '../design/Box';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { z } from 'zod';
import { useAddress } from '../api/address';
import { Joined } from './Joined';
import { Pairs } from './Pairs';
import { Trust } from './Trust';
import { UnjoinedKeys } from './UnjoinedKeys';
import './matching.css';

const tabs = ['pairs', 'joined', 'keys', 'trust'] as const;
type TabName = (typeof tabs)[number];
const matchingAddress = z.object({ tab: z.enum(tabs).default('pairs') });

export function Matching() {
  const [{ tab }, set] = useAddress(matchingAddress);
  return (
    <Box as="section" col grow>
      <Box row pad={[3, 6, 0]} gap={5} line="bottom">
        <h1>Matching</h1>
        <Tabs value={tab} onChange={(_, to: TabName) => set({ tab: to })}>
          <Tab value="pairs" label="The same goods?" />
          <Tab value="joined" label="Joined goods" />
          <Tab value="keys" label="Keys that join nothing" />
          <Tab value="trust" label="Whose word counts" />
        </Tabs>
      </Box>
      {tab === 'pairs' ? <Pairs /> : tab === 'joined' ? <Joined /> : tab === 'keys' ? <UnjoinedKeys /> : <Trust />}
    </Box>
  );
}
