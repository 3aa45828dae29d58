/** A text as a shopper sees it on a channel, with what the channel takes out of its markup. */
import { onlyTags, usualTags } from '@velvet-shelf/core/values';
import { Box } from '../design/Box';
import './shopper.css';

export function ShopperView({
  title,
  html,
  tags,
}: {
  title: string;
  html: string;
  /** Markup the channel takes; null where it does not tell. */
  tags: readonly string[] | null;
}) {
  const seen = onlyTags(html, tags ?? usualTags);
  return (
    <Box as="figure" className="shopper" aria-label={`${title}, as a shopper sees it`}>
      <Box as="figcaption" small muted>
        {title}
      </Box>
      {/* Cleaned: only text, emphasis, lists and pictures are left. */}
      <div className="shopper-text" dangerouslySetInnerHTML={{ __html: seen.html }} />
      <Box small tone={tags !== null && seen.removed.length > 0 ? 'advice' : 'muted'} role="status">
        {tags === null
          ? 'As it is sent: the channel does not tell which markup it takes.'
          : seen.removed.length > 0
            ? `Taken out by the channel: ${seen.removed.join(', ')}.`
            : 'Nothing is taken out.'}
      </Box>
    </Box>
  );
}
