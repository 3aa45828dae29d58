/** The region an account belongs to, and the markets it sells in. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type AccountAnswer, api } from '@velvet-shelf/contract';
import { sayLanguage } from '@velvet-shelf/core/values';
import { Link } from 'react-router';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { regionOptions, sayRegion } from './regions';

export function Markets({ account }: { account: AccountAnswer }) {
  const { id, channelId, channel, region, regions, markets, state } = account;
  const queries = useQueryClient();
  const tell = useTell();
  const kept = (words: string) => () => {
    tell(words);
    void queries.invalidateQueries();
  };
  const move = useMutation({
    mutationFn: (to: string) =>
      call(api.channels.changeAccount, { params: { id }, body: { to: { region: to }, was: { region } } }),
    onSuccess: kept('Kept'),
  });
  const open = useMutation({
    mutationFn: (market: string) =>
      call(api.channels.addPlace, { params: { id: channelId }, body: { market, account: id } }),
    onSuccess: kept('The place stands. All goods go there until you say which.'),
  });
  const isMovable = state === 'off' || state === 'expired';
  return (
    <Box>
      <Box as="h3" below={1}>
        {regions.length > 0 ? 'Region and markets' : 'Markets'}
      </Box>
      {regions.length > 0 &&
        (isMovable ? (
          <TextField
            select
            label="Region"
            value={region}
            onChange={(event) => move.mutate(event.target.value)}
            sx={{ minWidth: 220, my: 1 }}
          >
            {regionOptions(regions).map(([key, words]) => (
              <MenuItem key={key} value={key}>
                {words}
              </MenuItem>
            ))}
          </TextField>
        ) : (
          <Box small>
            {sayRegion(regions, region)}: {channel} keeps its regions apart. For another one, disconnect, or make a
            further account.
          </Box>
        ))}
      {markets.map((market) => (
        <Box row key={market.key} gap={3}>
          <Box grow>
            {market.name}{' '}
            <Box as="span" small muted>
              {sayLanguage(market.language)} · {market.currency}
            </Box>
          </Box>
          {market.place === null ? (
            <Button color="secondary" disabled={open.isPending} onClick={() => open.mutate(market.key)}>
              Sell in {market.name}
            </Button>
          ) : (
            <Link to={`/places/${market.place}/goods`}>which goods</Link>
          )}
        </Box>
      ))}
      {(move.error ?? open.error) && <ProblemBox error={move.error ?? open.error} />}
    </Box>
  );
}
