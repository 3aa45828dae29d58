/** The balance: the sum that proves no listing was lost between selection and report. */
import { Box } from '../design/Box';
import type { RunAnswer } from '@velvet-shelf/contract';
import { State } from '../design/State';
import { count } from '../design/words';

export function Balance({ run, counts }: { run: RunAnswer; counts: NonNullable<RunAnswer['counts']> }) {
  const { report } = run;
  const holds =
    counts.selected === counts.sent + counts.leftOut &&
    (!report || counts.sent === report.accepted + report.warned + report.refused + report.unanswered);
  return (
    <Box wrap row gap={5.5} align="stretch" padBottom={2} aria-label="Balance">
      <Sum n={counts.selected} words="in selection" />
      <Sign>=</Sign>
      <Sum n={counts.leftOut} words="left out" />
      <Sign>+</Sign>
      <Sum n={counts.sent} words="in the file" />
      {report && (
        <>
          <Sign>=</Sign>
          <Sum n={report.accepted} words="accepted" />
          <Sign>+</Sign>
          <Sum n={report.warned} words="warned" />
          <Sign>+</Sign>
          <Sum n={report.refused} words="refused" />
          <Sign>+</Sign>
          <Sum n={report.unanswered} words="unanswered" />
        </>
      )}
      <Box as="span" alignSelf="center">
        {holds ? <State is="ready">adds up</State> : <State is="refused">does not add up</State>}
      </Box>
    </Box>
  );
}

function Sum({ n, words }: { n: number; words: string }) {
  return (
    <div>
      <Box serif textSize={22}>
        {count(n)}
      </Box>
      <Box small muted>
        {words}
      </Box>
    </div>
  );
}

function Sign({ children }: { children: string }) {
  return (
    <Box as="span" muted alignSelf="center">
      {children}
    </Box>
  );
}
