/** Attributes as a list somebody has elsewhere. */
import { type DictionaryRow, api } from '@velvet-shelf/contract';
import { attributeTypes, foldText } from '@velvet-shelf/core/values';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { PasteLines, type PastedLine, partedLines } from '../design/PasteLines';
import { typeWords } from './words';

interface Made {
  label: string;
  type: (typeof attributeTypes)[number];
  values: string[];
}

/** “Glaze” · “Care <tab> text” · “Frost-proof <tab> yes or no” · “Finish <tab> matt | glossy”. */
function readLines(text: string, known: readonly DictionaryRow[]): PastedLine<Made>[] {
  const seen = new Map(known.map(({ label }) => [foldText(label), 'is there already']));
  return partedLines(text).map(([label = '', said = '']) => {
    const values = said
      .split('|')
      .map((value) => value.trim())
      .filter(Boolean);
    const named = attributeTypes.find((type) =>
      [type, typeWords[type]].some((word) => foldText(word) === foldText(said)),
    );
    const fault = seen.get(foldText(label));
    seen.set(foldText(label), 'stands there twice');
    const line = (type: Made['type'], list: string[], why: string | undefined): PastedLine<Made> => ({
      made: { label, type, values: list },
      cells: [label, `${typeWords[type]}${list.length > 0 ? `: ${list.join(', ')}` : ''}`],
      fault: why,
    });
    if (named) return line(named, [], named === 'measure' ? 'say of what: make it by itself' : fault);
    if (values.length > 1) return line('choice', values, fault);
    return line('text', [], said === '' ? fault : `“${said}” is no kind of attribute`);
  });
}

export function PasteAttributes({ known, onDone }: { known: readonly DictionaryRow[]; onDone: () => void }) {
  return (
    <>
      <Box as="h2" textSize={22}>
        Paste several
      </Box>
      <PasteLines
        label="Attributes, one a line"
        help="One a line: its name, then what it is after a tab or a semicolon. Values with | between make a closed list."
        placeholder={'Glaze\nFrost-proof; yes or no\nFinish; matt | glossy | silk'}
        heads={['Attribute', 'Is']}
        noun="attribute"
        read={(text) => readLines(text, known)}
        make={(all) =>
          call(api.dictionary.add, {
            body: {
              attributes: all.map((made) => ({
                ...{ ...made, many: false, perLanguage: false, level: 'variant' as const },
                ...{ dimension: null, role: null, aliases: [], group: 'Own' },
              })),
            },
          })
        }
        onDone={onDone}
      />
    </>
  );
}
