/** One thing that channels ask for: what it holds, where it is written, who asks and how strongly, and what is wrong with it. */
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Tooltip from '@mui/material/Tooltip';
import type { Ask, AskedLine as Asked, ProposalAnswer, SheetColumn } from '@velvet-shelf/contract';
import { sayLanguage } from '@velvet-shelf/core/values';
import { Link } from 'react-router';
import { Box } from '../../design/Box';
import { plural } from '../../design/words';
import { choicesOf } from '../sheet/columns';

/** Choices that are laid out beside each other; more are looked up. */
const mostButtons = 4;

export interface Writing {
  text: string;
  onWrite: (text: string) => void;
  fault: string | undefined;
  /** For which goods, where not for all of them. */
  goods: string | undefined;
}

interface AskedLineProps {
  line: Asked;
  signs: ReadonlyMap<number, string>;
  column: SheetColumn | undefined;
  /** How it is written here; undefined where it is not. */
  writing: Writing | undefined;
  proposal: ProposalAnswer | undefined;
  onOwn: (ask: Ask) => void;
}

export function AskedLine({ line, signs, column, writing, proposal, onOwn }: AskedLineProps) {
  const { label, language, asks, held } = line;
  const head = language === null ? label : `${label}, ${sayLanguage(language)}`;
  const findings = asks.flatMap((ask) => ask.findings.map((finding) => ({ ...finding, ask })));
  const missing = Math.max(...asks.map((ask) => ask.missing));
  return (
    <Box as="li" columns="134px minmax(0, 1fr)" gap={3} pad={[2, 0]} line="bottom" align="start" aria-label={head}>
      <Box>
        <Box medium breaks>
          {head}
        </Box>
        <Signs asks={asks} signs={signs} />
      </Box>
      <Box minWide={0}>
        {writing && column ? (
          <Editor head={head} column={column} writing={writing} asks={asks} />
        ) : (
          <Standing line={line} onOwn={onOwn} />
        )}
        {writing?.goods && (
          <Box small muted>
            {writing.goods}
          </Box>
        )}
        {proposal && writing && proposal.text !== writing.text && (
          <Box small muted>
            {proposal.evidence.before}
            <mark>{proposal.evidence.words}</mark>
            {proposal.evidence.after}{' '}
            <Button
              color="secondary"
              sx={{ p: 0, minWidth: 0 }}
              aria-label={`Take ${proposal.shown} for ${head}`}
              onClick={() => writing.onWrite(proposal.text)}
            >
              Take {proposal.shown}
            </Button>{' '}
            {Math.round(proposal.score * 100)} %
          </Box>
        )}
        {missing > 0 && held !== null && held.without.length > 0 && held.of > 1 && (
          <Box small tone="blocked">
            {held.without.length === held.of
              ? `none of ${plural(held.of, 'variant')} has it`
              : `${plural(held.without.length, 'variant')} of ${held.of} without it`}
          </Box>
        )}
        {findings.slice(0, 3).map(({ words, severity, cause, listings, ask }) => (
          <Box small tone={severity === 'blocker' ? 'blocked' : 'advice'} key={`${ask.placeId} ${ask.field} ${words}`}>
            {ask.place}: {words}
            {ask.listings > 1 && <> ({plural(listings, 'listing')})</>}{' '}
            <Link to={`/causes?cause=${encodeURIComponent(cause)}`}>mend</Link>
          </Box>
        ))}
        {findings.length > 3 && (
          <Box small muted>
            and {findings.length - 3} more
          </Box>
        )}
      </Box>
    </Box>
  );
}

/** Who asks: filled where it must be there, outlined where it had better be. */
function Signs({ asks, signs }: { asks: readonly Ask[]; signs: ReadonlyMap<number, string> }) {
  return (
    <Box row wrap gap={1} above={0.5}>
      {asks.map(({ placeId, place, field, label, need, help, limits }) => (
        <Tooltip
          key={`${placeId} ${field}`}
          title={
            <>
              {place}, {label}: {needWords[need]}
              {limits.length > 0 && <>; {limits.join(', ')}</>}
              {help && <> · {help}</>}
            </>
          }
        >
          <span className={`ask ${need}`} role="img" aria-label={`${place}, ${label}: ${needWords[need]}`} tabIndex={0}>
            {signs.get(placeId)}
          </span>
        </Tooltip>
      ))}
    </Box>
  );
}

const needWords = { required: 'must be there', recommended: 'better there', optional: 'may be there' };

function Editor({
  head,
  column,
  writing: { text, onWrite, fault },
  asks,
}: {
  head: string;
  column: SheetColumn;
  writing: Writing;
  asks: readonly Ask[];
}) {
  const choices = choicesOf(column);
  const isMany = column.read?.many === true;
  const atMost = asks.flatMap(({ atMost: most }) => most ?? []);
  const least = atMost.length > 0 ? Math.min(...atMost) : undefined;
  const length = [...text].length;
  if (choices && !isMany && choices.length <= mostButtons)
    return (
      <>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={text}
          aria-label={head}
          onChange={(_, to: string | null) => onWrite(to ?? '')}
        >
          {choices.map((choice) => (
            <ToggleButton value={choice} key={choice} sx={{ py: 0.3 }}>
              {choice}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        {fault !== undefined && (
          <Box small tone="blocked">
            {fault}
          </Box>
        )}
      </>
    );
  if (choices && !isMany)
    return (
      <Autocomplete
        freeSolo
        autoHighlight
        size="small"
        options={choices}
        inputValue={text}
        onInputChange={(_, to, why) => why !== 'reset' && onWrite(to)}
        onChange={(_, to) => onWrite(to ?? '')}
        renderInput={(params) => (
          <TextField
            {...params}
            error={fault !== undefined}
            helperText={fault}
            slotProps={{
              ...params.slotProps,
              htmlInput: { ...params.slotProps.htmlInput, 'aria-label': head },
            }}
          />
        )}
      />
    );
  const isLong = column.read?.type === 'richText' || column.read?.role === 'title' || isMany;
  const isOver = least !== undefined && length > least;
  return (
    <TextField
      fullWidth
      multiline={isLong}
      maxRows={6}
      value={text}
      error={fault !== undefined || isOver}
      helperText={fault ?? (least === undefined ? undefined : `${length} of ${least} characters`)}
      onChange={({ target }) => onWrite(target.value)}
      slotProps={{
        htmlInput: { 'aria-label': head },
        formHelperText: { sx: { textAlign: fault === undefined ? 'right' : 'left', mx: 0 } },
      }}
    />
  );
}

/** What is not written here: what it holds, or how the channel's field is filled. */
function Standing({ line: { held, filled, attribute, asks }, onOwn }: Pick<AskedLineProps, 'line' | 'onOwn'>) {
  const [ask] = asks;
  if (attribute !== null)
    return (
      <Box muted>
        {held === null
          ? (offers[attribute] ?? 'told by the goods themselves')
          : (held.same ?? 'each variant has its own: choose one on the rack')}
      </Box>
    );
  if (filled?.fixed)
    return (
      <Box>
        {filled.fixed}{' '}
        <Box as="span" small muted>
          · a fill says so for all of {ask?.place}
        </Box>
      </Box>
    );
  return (
    <Box muted>
      {filled ? 'a fill of its own' : 'nothing fills it'}{' '}
      {ask?.own && (
        <Button color="secondary" sx={{ p: 0, minWidth: 0 }} onClick={() => onOwn(ask)}>
          Keep it as an attribute of ours
        </Button>
      )}
    </Box>
  );
}

/** Where what is no attribute is told. */
const offers: Record<string, string> = {
  price: 'its price: on each variant',
  salePrice: 'its sale price: on each variant',
  stock: 'its stock: on each variant',
  options: 'its options: on the rack',
  family: 'its family',
};
