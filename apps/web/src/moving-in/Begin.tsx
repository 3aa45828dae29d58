/** The company is made: whose shelf it is, and what it begins with. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { isCountry, isTimeZone, readLanguage } from '@velvet-shelf/core/values';
import { Navigate, useNavigate } from 'react-router';
import type { z } from 'zod';
import { call } from '../api/call';
import { CompanyFields } from '../company/CompanyFields';
import { Box } from '../design/Box';
import { ProblemBox } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { Front } from '../design/Front';
import { yesOrNo } from '../design/words';
import { useWho } from '../session/who';

/** What the browser says of its reader, as far as it is a country, a language, a time zone. */
function guessed() {
  const tag = readLanguage(navigator.language);
  const region = tag === undefined ? undefined : new Intl.Locale(tag).maximize().region;
  const { timeZone } = Intl.DateTimeFormat().resolvedOptions();
  return {
    market: region !== undefined && isCountry(region) ? region : '',
    languages: tag === undefined ? [] : [tag],
    timeZone: isTimeZone(timeZone) ? timeZone : '',
  };
}

const asked = api.movingIn.found.body.extend({ pricesWithVat: yesOrNo });

export function Begin() {
  const who = useWho();
  const form = useFields(asked, { name: '', currencies: [], pricesWithVat: 'true', start: 'common', ...guessed() });
  const navigate = useNavigate();
  const queries = useQueryClient();
  const found = useMutation({
    mutationFn: (body: z.output<typeof asked>) => call(api.movingIn.found, { body }),
    onSuccess: async () => {
      queries.clear();
      await navigate('/', { replace: true });
    },
  });
  if (who.error) return <Navigate to="/sign-in" replace />;
  if (!who.data) return null;
  if (who.data.company) return <Navigate to="/" replace />;
  const { control } = form;
  return (
    <Front name="Velvet Shelf" words="Whose shelf is it? All of this can be changed later, with goods already in.">
      {who.data.role === 'owner' ? (
        <Form form={form} onSend={(body) => found.mutate(body)} error={found.error} wide={380} columns gap={3}>
          <Box as="h2" textSize={22}>
            Your company
          </Box>
          <CompanyFields control={control} />
          <Field
            control={control}
            name="start"
            label="Begin with"
            options={[
              ['common', 'common attributes: title, brand, GTIN, colour, sizes …'],
              ['nothing', 'nothing: every attribute is made as it is needed'],
            ]}
          />
          <Button type="submit" variant="contained" disabled={found.isPending}>
            Make the company
          </Button>
        </Form>
      ) : (
        <Box wide={340}>
          <ProblemBox error="An owner makes the company first" title="Not yet" />
        </Box>
      )}
    </Front>
  );
}
