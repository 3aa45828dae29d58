/** A price converted: which, the currency we keep it in, and the rate it goes by, said in place where there is none. */
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { type ChannelAttributeAnswer, api } from '@velvet-shelf/contract';
import type { FillRule } from '@velvet-shelf/core/fills';
import { useParams } from 'react-router';
import { ask } from '../api/ask';
import { RateForm } from '../company/RateForm';
import { Box } from '../design/Box';
import { day } from '../design/words';
import { SourceSelect } from './SourceSelect';

type ConvertRule = Extract<FillRule, { kind: 'convert' }>;

export function ConvertEditor({
  rule,
  attribute,
  onChange,
}: {
  rule: ConvertRule;
  attribute: ChannelAttributeAnswer;
  onChange: (rule: FillRule) => void;
}) {
  const id = Number(useParams().id);
  const company = useQuery(ask(api.company.show));
  const places = useQuery(ask(api.channels.places));
  const rates = useQuery(ask(api.company.rates));
  const to = places.data?.items.find((place) => place.id === id)?.currency ?? '';
  const others = (company.data?.currencies ?? []).filter((currency) => currency !== to);
  const rate = rates.data?.items.find((row) => row.from === rule.currency && row.to === to);
  return (
    <Box col gap={2}>
      <Box row>
        <SourceSelect
          attribute={attribute}
          label="Price"
          value={rule.from}
          onChange={(from) => onChange({ ...rule, from })}
        />
        <TextField
          select
          label="Kept in"
          value={others.includes(rule.currency) ? rule.currency : ''}
          onChange={({ target }) => onChange({ ...rule, currency: target.value })}
          sx={{ width: 120 }}
        >
          {others.map((currency) => (
            <MenuItem key={currency} value={currency}>
              {currency}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      {rule.currency !== '' &&
        rates.data &&
        (rate ? (
          <Box small muted role="status">
            One {rate.from} is {rate.rate} {rate.to}: {rate.source}, {day(rate.day)}.
          </Box>
        ) : (
          <Box>
            <Box small tone="advice" below={2} role="status">
              There is no rate from {rule.currency} to {to} yet; nothing is sent without one.
            </Box>
            <RateForm from={rule.currency} to={to} />
          </Box>
        ))}
    </Box>
  );
}
