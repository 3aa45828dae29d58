/**
 * A tree whose rows are moved by drag or by keys: Alt with the arrows moves a row among those beside it, out of what it stands
 * below, and below the one before it; arrows go through it and open and close it, Enter chooses.
 */
import { dragAndDropFeature, hotkeysCoreFeature, syncDataLoaderFeature } from '@headless-tree/core';
import { useTree } from '@headless-tree/react';
import ChevronRightIcon from '@mui/icons-material/ChevronRight';
import { type KeyboardEvent, type ReactNode, useEffect, useMemo, useRef, useState } from 'react';
import { Box } from './Box';
import './tree.css';

export interface TreeRow {
  id: number;
  /** Of the row it stands below; null at the root. */
  parentId: number | null;
}

/** Where a row goes: below which, before which of those that stand there; null: at the root, after them all. */
export interface Place {
  parentId: number | null;
  before: number | null;
}

interface TreeProps<Row extends TreeRow> {
  label: string;
  /** From the root down, those beside each other in their order. */
  rows: readonly Row[];
  nameOf: (row: Row) => string;
  /** What stands beside its name, in the columns of `heads`. */
  cells: (row: Row) => readonly ReactNode[];
  heads: readonly string[];
  /** Widths of those columns, as CSS has them. */
  widths: string;
  faded?: (row: Row) => boolean;
  chosen?: number | undefined;
  /** Rows that stand open at first, where not all do. */
  open?: readonly number[];
  onChoose: (row: Row) => void;
  /** Absent: nothing is moved. */
  onMove?: ((row: Row, to: Place) => void) | undefined;
}

const root = 'root';
const idOf = (id: string): number | null => (id === root ? null : Number(id));
type Arrow = 'up' | 'down' | 'in' | 'out';
const arrows: Readonly<Record<string, Arrow>> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowRight: 'in',
  ArrowLeft: 'out',
};
/** Trees of as many rows stand open at first. */
const mostOpen = 300;
const indent = 20;

export function Tree<Row extends TreeRow>({
  label,
  rows,
  nameOf,
  cells,
  heads,
  widths,
  faded,
  chosen,
  open = [],
  onChoose,
  onMove,
}: TreeProps<Row>) {
  const { byId, below } = useMemo(() => {
    const children = new Map<string, string[]>([[root, []]]);
    for (const row of rows) {
      const above = row.parentId === null ? root : String(row.parentId);
      children.set(above, [...(children.get(above) ?? []), String(row.id)]);
    }
    return { byId: new Map(rows.map((row) => [String(row.id), row])), below: children };
  }, [rows]);
  const beside = (id: number | null) => below.get(id === null ? root : String(id)) ?? [];
  const [said, say] = useState('');
  const move = (row: Row, to: Place) => {
    const above = to.parentId === null ? 'the root' : nameOfId(String(to.parentId));
    say(
      `${nameOf(row)} moves below ${above}${to.before === null ? ', to the end' : `, before ${nameOfId(String(to.before))}`}`,
    );
    onMove?.(row, to);
  };
  const nameOfId = (id: string) => {
    const row = byId.get(id);
    return row ? nameOf(row) : '';
  };
  /** By Alt and an arrow. */
  const moveBy = (id: string, arrow: Arrow) => {
    const row = byId.get(id);
    if (!row || !onMove) return;
    const list = beside(row.parentId);
    const at = list.indexOf(id);
    const place = { parentId: row.parentId };
    if (arrow === 'up' && at > 0) move(row, { ...place, before: Number(list[at - 1]) });
    if (arrow === 'down' && at < list.length - 1)
      move(row, { ...place, before: list[at + 2] === undefined ? null : Number(list[at + 2]) });
    if (arrow === 'in' && at > 0) move(row, { parentId: Number(list[at - 1]), before: null });
    const above = row.parentId === null ? undefined : byId.get(String(row.parentId));
    if (arrow === 'out' && above) {
      const after = beside(above.parentId)[beside(above.parentId).indexOf(String(above.id)) + 1];
      move(row, { parentId: above.parentId, before: after === undefined ? null : Number(after) });
    }
  };
  const [focusedItem, setFocusedItem] = useState<string | null>(null);
  const moving = useRef<string>(undefined);
  const onAlt = (event: KeyboardEvent) => {
    const arrow = event.altKey ? arrows[event.key] : undefined;
    const at = event.target instanceof Element ? event.target.closest<HTMLElement>('[data-id]')?.dataset.id : undefined;
    if (!arrow || at === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    moving.current = at;
    moveBy(at, arrow);
  };
  const [expandedItems, setExpandedItems] = useState(() =>
    (rows.length <= mostOpen ? rows.map(({ id }) => id) : open).map(String),
  );
  const tree = useTree<{ row: Row | undefined }>({
    rootItemId: root,
    getItemName: (item) => nameOfId(item.getId()),
    isItemFolder: () => true,
    canReorder: onMove !== undefined,
    canDrag: () => onMove !== undefined,
    indent,
    dataLoader: { getItem: (id) => ({ row: byId.get(id) }), getChildren: (id) => below.get(id) ?? [] },
    state: { expandedItems, focusedItem },
    setExpandedItems,
    setFocusedItem,
    onPrimaryAction: (item) => {
      const { row } = item.getItemData();
      if (row) onChoose(row);
    },
    onDrop: ([dragged], target) => {
      const row = dragged?.getItemData().row;
      if (!row) return;
      const parentId = idOf(target.item.getId());
      const others = beside(parentId).filter((id) => id !== String(row.id));
      const before = 'insertionIndex' in target ? others[target.insertionIndex] : undefined;
      move(row, { parentId, before: before === undefined ? null : Number(before) });
    },
    features: [syncDataLoaderFeature, hotkeysCoreFeature, dragAndDropFeature],
  });
  // The rows of a move come back with the answer; what it stands below is opened to show them.
  const isFirst = useRef(true);
  useEffect(() => {
    if (isFirst.current) isFirst.current = false;
    else tree.rebuildTree();
    // Where one moves a row by keys, the next key moves it on.
    if (moving.current === undefined) return;
    tree.getItemInstance(moving.current).setFocused();
    tree.updateDomFocus();
    moving.current = undefined;
  }, [byId, tree]);
  const template = { gridTemplateColumns: `minmax(220px, 1fr) ${widths}` };
  return (
    <div className="tree">
      <div className="tree-row tree-heads" style={template} aria-hidden>
        {heads.map((head) => (
          <span key={head}>{head}</span>
        ))}
      </div>
      <div {...tree.getContainerProps(label)} className="tree-body" onKeyDownCapture={onAlt}>
        {tree.getItems().map((item) => {
          // One that has gone meanwhile is asked for once more before the tree is built anew.
          const { row } = item.getItemData();
          if (!row) return null;
          const { level } = item.getItemMeta();
          const hasBelow = (below.get(item.getId()) ?? []).length > 0;
          return (
            <div
              {...item.getProps()}
              key={item.getId()}
              onClick={() => {
                item.setFocused();
                onChoose(row);
              }}
              className="tree-row"
              style={template}
              data-id={row.id}
              data-chosen={row.id === chosen || undefined}
              data-target={item.isDragTarget() || undefined}
              data-faded={faded?.(row) || undefined}
            >
              <span className="tree-name" style={{ paddingLeft: level * indent }}>
                <ChevronRightIcon
                  className="tree-mark"
                  data-open={(hasBelow && item.isExpanded()) || undefined}
                  visibility={hasBelow ? 'visible' : 'hidden'}
                  fontSize="small"
                  onClick={(event) => {
                    event.stopPropagation();
                    if (item.isExpanded()) item.collapse();
                    else item.expand();
                  }}
                />
                {nameOf(row)}
              </span>
              {cells(row).map((cell, i) => (
                <span key={i}>{cell}</span>
              ))}
            </div>
          );
        })}
        <div style={tree.getDragLineStyle()} className="tree-line" role="presentation" />
      </div>
      <Box as="span" className="unseen" aria-live="polite">
        {said}
      </Box>
    </div>
  );
}
