/** The way to a first feed on Today: what is set, what is next; left and taken up again at will. */
import CheckIcon from '@mui/icons-material/Check';
import Button from '@mui/material/Button';
import type { Step } from '@velvet-shelf/contract';
import { Link } from 'react-router';
import { Box } from '../design/Box';
import { StepMark } from '../design/StepMark';

const names: Record<Step['step'], string> = {
  company: 'Your company',
  goods: 'First goods',
  channel: 'A channel',
  place: 'A place on it',
  fit: 'Fit',
  feed: 'A feed',
};

export function Steps({ steps, onLeave }: { steps: readonly Step[]; onLeave: () => void }) {
  const next = steps.findIndex(({ isDone }) => !isDone);
  return (
    <>
      <Box as="p" muted around={[0, 0, 2]}>
        What is set stays as it is; everything can be left and taken up again.
      </Box>
      <Box as="ol" unmarked aria-label="The way to a first feed">
        {steps.map(({ step, isDone, words, to, verb }, i) => (
          <Box
            as="li"
            row
            gap={3.5}
            pad={[3, 0]}
            line="top"
            align="start"
            key={step}
            aria-current={i === next ? 'step' : undefined}
          >
            <StepMark state={isDone ? 'done' : i === next ? 'now' : 'later'}>
              {isDone ? <CheckIcon fontSize="inherit" titleAccess="done" /> : i + 1}
            </StepMark>
            <Box grow>
              <b>{names[step]}</b>
              <Box small muted>
                {words}
              </Box>
            </Box>
            <Button
              component={Link}
              to={to}
              variant={i === next ? 'contained' : 'text'}
              color={i === next ? 'primary' : 'secondary'}
              aria-label={`${verb}: ${names[step]}`}
            >
              {verb}
            </Button>
          </Box>
        ))}
      </Box>
      <Button color="secondary" sx={{ p: 0, mt: 1 }} onClick={onLeave}>
        Leave this list
      </Button>
    </>
  );
}
