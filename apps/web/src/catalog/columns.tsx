/** Which columns the grid shows, remembered in this browser. */
import Checkbox from '@mui/material/Checkbox';
import MenuItem from '@mui/material/MenuItem';
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { ask } from '../api/ask';
import { MenuButton } from '../design/MenuButton';

export interface Column {
  key: string;
  label: string;
  width: number;
  numeric?: boolean;
  /** Of the dictionary: asked for with each window. */
  attribute?: boolean;
}

const standard: Column[] = [
  { key: 'category', label: 'Category', width: 170 },
  { key: 'brand', label: 'Brand', width: 105 },
  { key: 'price', label: 'Price', width: 80, numeric: true },
  { key: 'stock', label: 'Stock', width: 70, numeric: true },
  { key: 'complete', label: 'Complete', width: 84 },
  { key: 'places', label: 'Fit to send', width: 150 },
  { key: 'gtin', label: 'GTIN', width: 130 },
  { key: 'state', label: 'State', width: 80 },
];
const first = ['category', 'price', 'stock', 'complete', 'places'];
const slot = 'velvet.catalog.columns';

export interface Columns {
  all: Column[];
  shown: Column[];
  toggle(key: string): void;
}

export function useColumns(): Columns {
  const attributes = useQuery({ ...ask(api.catalog.attributes), staleTime: 300_000 });
  const [keys, setKeys] = useState<string[]>(() => {
    try {
      return JSON.parse(localStorage.getItem(slot) ?? 'null') ?? first;
    } catch {
      return first;
    }
  });
  const known = new Set([...standard.map((column) => column.key), 'sku', 'title', 'description', 'pictures', 'page']);
  const all = [
    ...standard,
    ...(attributes.data?.items ?? [])
      .filter((attribute) => !known.has(attribute.key) && !attribute.perLanguage)
      .map((attribute): Column => ({
        key: attribute.key,
        label: attribute.label,
        width: 120,
        numeric: ['number', 'measure', 'money'].includes(attribute.type),
        attribute: true,
      })),
  ];
  return {
    all,
    shown: keys.flatMap((key) => all.find((column) => column.key === key) ?? []),
    toggle(key) {
      const next = keys.includes(key) ? keys.filter((text) => text !== key) : [...keys, key];
      localStorage.setItem(slot, JSON.stringify(next));
      setKeys(next);
    },
  };
}

export function ColumnMenu({ columns }: { columns: Columns }) {
  return (
    <MenuButton label="Columns">
      {() =>
        columns.all.map((column) => (
          <MenuItem key={column.key} dense onClick={() => columns.toggle(column.key)}>
            <Checkbox
              size="small"
              checked={columns.shown.some((shown) => shown.key === column.key)}
              sx={{ p: 0.3, mr: 1 }}
            />
            {column.label}
          </MenuItem>
        ))
      }
    </MenuButton>
  );
}
