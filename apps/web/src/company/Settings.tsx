/** Company and people: whose shelf it is, who comes in, whom goods come from, where they stand. */
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { z } from 'zod';
import { useAddress } from '../api/address';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { Loaded } from '../design/feedback';
import { People } from '../session/People';
import { WarehouseTable } from '../stock/WarehouseTable';
import { CompanyForm } from './CompanyForm';
import { RateTable } from './RateTable';
import { SupplierTable } from './SupplierTable';

const address = z.object({ tab: z.enum(['company', 'rates', 'people', 'suppliers', 'warehouses']).default('company') });

export function Settings() {
  const [{ tab }, go] = useAddress(address);
  const company = useQuery(ask(api.company.show));
  return (
    <Box as="section" col grow>
      <Box pad={[3.5, 6, 0]}>
        <h1>Company and people</h1>
        <Tabs value={tab} onChange={(_, to: typeof tab) => go({ tab: to })}>
          <Tab value="company" label="Company" />
          <Tab value="rates" label="Rates" />
          <Tab value="people" label="People" />
          <Tab value="suppliers" label="Suppliers" />
          <Tab value="warehouses" label="Warehouses" />
        </Tabs>
      </Box>
      <Box grow scroll pad={[4, 6, 6]}>
        {tab === 'company' && (
          <Loaded query={company}>{(data) => <CompanyForm key={data.version} company={data} />}</Loaded>
        )}
        {tab === 'rates' && (
          <Loaded query={company}>{({ currencies }) => <RateTable currencies={currencies} />}</Loaded>
        )}
        {tab === 'people' && <People />}
        {tab === 'suppliers' && <SupplierTable />}
        {tab === 'warehouses' && <WarehouseTable />}
      </Box>
    </Box>
  );
}
