/** A text with headings, lists, tables and emphasis, written as it will be seen. What it may hold is what core keeps of markup. */
import FormatBoldIcon from '@mui/icons-material/FormatBold';
import FormatItalicIcon from '@mui/icons-material/FormatItalic';
import FormatListBulletedIcon from '@mui/icons-material/FormatListBulleted';
import FormatListNumberedIcon from '@mui/icons-material/FormatListNumbered';
import RedoIcon from '@mui/icons-material/Redo';
import SubscriptIcon from '@mui/icons-material/Subscript';
import SuperscriptIcon from '@mui/icons-material/Superscript';
import TableChartIcon from '@mui/icons-material/TableChart';
import TitleIcon from '@mui/icons-material/Title';
import UndoIcon from '@mui/icons-material/Undo';
import IconButton from '@mui/material/IconButton';
import { type Editor, Mark } from '@tiptap/core';
import { TableKit } from '@tiptap/extension-table';
import { EditorContent, useEditor, useEditorState } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import { hasText } from '@velvet-shelf/core/values';
import { type ReactNode, useEffect, useRef } from 'react';
import { Box } from './Box';
import './rich-text.css';

const markOf = (name: string, tag: string) =>
  Mark.create({ name, parseHTML: () => [{ tag }], renderHTML: () => [tag, 0] });

const extensions = [
  StarterKit.configure({
    heading: { levels: [2, 3, 4] },
    blockquote: false,
    code: false,
    codeBlock: false,
    horizontalRule: false,
    link: false,
    strike: false,
    underline: false,
  }),
  TableKit.configure({ table: { resizable: false } }),
  markOf('subscript', 'sub'),
  markOf('superscript', 'sup'),
];

export function RichText({
  label,
  text,
  onWrite,
}: {
  label: string;
  /** Markup as it is kept; empty for none. */
  text: string;
  onWrite: (text: string) => void;
}) {
  const editor = useEditor({
    extensions,
    content: text,
    editorProps: {
      attributes: { class: 'rich-text', role: 'textbox', 'aria-multiline': 'true', 'aria-label': label },
    },
    onUpdate: ({ editor: now }) => {
      said.current = written(now);
      onWrite(said.current);
    },
  });
  /** The text as it stands in the editor: what comes from elsewhere, such as what is put back, is another. */
  const said = useRef(text);
  useEffect(() => {
    if (said.current === text) return;
    said.current = text;
    editor.commands.setContent(text, { emitUpdate: false });
  }, [editor, text]);
  return (
    <Box className="rich-text-frame">
      <Tools editor={editor} label={label} />
      <EditorContent editor={editor} />
    </Box>
  );
}

/** Without the attributes and columns that tables are drawn with, which are not kept. */
const written = (editor: Editor): string => {
  const html = editor
    .getHTML()
    .replace(/<colgroup>.*?<\/colgroup>/g, '')
    .replace(/<(t\w+)\s[^>]*>/g, '<$1>');
  return hasText(html) ? html : '';
};

interface Tool {
  name: string;
  icon: ReactNode;
  isOn?: (editor: Editor) => boolean;
  can?: (editor: Editor) => boolean;
  use: (editor: Editor) => boolean;
}

const tools: readonly Tool[] = [
  {
    name: 'Heading',
    icon: <TitleIcon fontSize="inherit" />,
    isOn: (editor) => editor.isActive('heading'),
    use: (editor) => editor.chain().focus().toggleHeading({ level: 3 }).run(),
  },
  {
    name: 'Strong',
    icon: <FormatBoldIcon fontSize="inherit" />,
    isOn: (editor) => editor.isActive('bold'),
    use: (editor) => editor.chain().focus().toggleBold().run(),
  },
  {
    name: 'Emphasis',
    icon: <FormatItalicIcon fontSize="inherit" />,
    isOn: (editor) => editor.isActive('italic'),
    use: (editor) => editor.chain().focus().toggleItalic().run(),
  },
  {
    name: 'List',
    icon: <FormatListBulletedIcon fontSize="inherit" />,
    isOn: (editor) => editor.isActive('bulletList'),
    use: (editor) => editor.chain().focus().toggleBulletList().run(),
  },
  {
    name: 'Numbered list',
    icon: <FormatListNumberedIcon fontSize="inherit" />,
    isOn: (editor) => editor.isActive('orderedList'),
    use: (editor) => editor.chain().focus().toggleOrderedList().run(),
  },
  {
    name: 'Table',
    icon: <TableChartIcon fontSize="inherit" />,
    isOn: (editor) => editor.isActive('table'),
    use: (editor) =>
      editor.isActive('table')
        ? editor.chain().focus().addRowAfter().run()
        : editor.chain().focus().insertTable({ rows: 2, cols: 2, withHeaderRow: false }).run(),
  },
  {
    name: 'Subscript',
    icon: <SubscriptIcon fontSize="inherit" />,
    isOn: (editor) => editor.isActive('subscript'),
    use: (editor) => editor.chain().focus().toggleMark('subscript').run(),
  },
  {
    name: 'Superscript',
    icon: <SuperscriptIcon fontSize="inherit" />,
    isOn: (editor) => editor.isActive('superscript'),
    use: (editor) => editor.chain().focus().toggleMark('superscript').run(),
  },
  {
    name: 'Back',
    icon: <UndoIcon fontSize="inherit" />,
    can: (editor) => editor.can().undo(),
    use: (editor) => editor.chain().focus().undo().run(),
  },
  {
    name: 'Again',
    icon: <RedoIcon fontSize="inherit" />,
    can: (editor) => editor.can().redo(),
    use: (editor) => editor.chain().focus().redo().run(),
  },
];

function Tools({ editor, label }: { editor: Editor; label: string }) {
  const states = useEditorState({
    editor,
    selector: ({ editor: now }) =>
      tools.map(({ isOn, can }) => ({ on: isOn?.(now) ?? false, can: can?.(now) ?? true })),
  });
  return (
    <Box row gap={0} role="toolbar" aria-label={`Form of ${label}`} className="rich-text-tools">
      {tools.map(({ name, icon, isOn, use }, i) => (
        <IconButton
          key={name}
          size="small"
          aria-label={name}
          title={name}
          {...(isOn ? { 'aria-pressed': states[i]?.on ?? false } : {})}
          color={states[i]?.on ? 'secondary' : 'default'}
          disabled={!states[i]?.can}
          // What is chosen in the text stays chosen.
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => use(editor)}
        >
          {icon}
        </IconButton>
      ))}
    </Box>
  );
}
