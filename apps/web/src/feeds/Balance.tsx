/** The balance: the sum that proves no listing was lost between selection and report. */
import type { RunAnswer } from '@velvet-shelf/contract';
import { State } from '../design/State';
import { count } from '../design/words';

export function Balance({ run, counts }: { run: RunAnswer; counts: NonNullable<RunAnswer['counts']> }) {
  const { report } = run;
  const holds =
    counts.selected === counts.sent + counts.leftOut &&
    (!report || counts.sent === report.accepted + report.warned + report.refused + report.unanswered);
  return (
    <div className="row wrap" style={{ gap: 22, alignItems: 'stretch', paddingBottom: 8 }} aria-label="Balance">
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
      <span style={{ alignSelf: 'center' }}>
        {holds ? <State is="ready">adds up</State> : <State is="refused">does not add up</State>}
      </span>
    </div>
  );
}

function Sum({ n, words }: { n: number; words: string }) {
  return (
    <div>
      <div className="serif" style={{ fontSize: 22, lineHeight: 1.1 }}>
        {count(n)}
      </div>
      <div className="muted small">{words}</div>
    </div>
  );
}

function Sign({ children }: { children: string }) {
  return (
    <span className="muted" style={{ alignSelf: 'center' }}>
      {children}
    </span>
  );
}
