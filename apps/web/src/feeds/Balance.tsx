/** The balance: two sums, each true by itself, that prove no listing was lost between selection and report. */
import { Box } from '../design/Box';
import type { RunAnswer } from '@velvet-shelf/contract';
import { State } from '../design/State';
import { count } from '../design/words';

type Part = [figure: number, words: string];

export function Balance({ run, counts }: { run: RunAnswer; counts: NonNullable<RunAnswer['counts']> }) {
  // Whoever has not been asked, or cannot be, has answered nothing yet.
  const answered = run.report ?? { accepted: 0, warned: 0, refused: 0, unanswered: counts.sent };
  const sent: Part = [counts.sent, 'in the file'];
  return (
    <Box padBottom={2} aria-label="Balance">
      <Sum whole={[counts.selected, 'in selection']} parts={[[counts.leftOut, 'left out'], sent]} />
      <Sum
        whole={sent}
        parts={[
          [answered.accepted, 'accepted'],
          [answered.warned, 'warned'],
          [answered.refused, 'refused'],
          [answered.unanswered, 'unanswered'],
        ]}
      />
    </Box>
  );
}

function Sum({ whole, parts }: { whole: Part; parts: Part[] }) {
  const holds = whole[0] === parts.reduce((sum, [figure]) => sum + figure, 0);
  return (
    <Box wrap row gap={[1, 4]} padBottom={1}>
      <Figure part={whole} />
      {parts.map((part, i) => (
        <Box row gap={4} key={part[1]}>
          <Box as="span" muted>
            {i === 0 ? '=' : '+'}
          </Box>
          <Figure part={part} />
        </Box>
      ))}
      {holds ? <State is="ready">adds up</State> : <State is="refused">does not add up</State>}
    </Box>
  );
}

function Figure({ part: [figure, words] }: { part: Part }) {
  return (
    <Box row gap={1.5}>
      <Box as="span" serif textSize={20}>
        {count(figure)}
      </Box>
      <Box as="span" small muted>
        {words}
      </Box>
    </Box>
  );
}
