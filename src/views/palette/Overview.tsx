'use client';
import type { Sheet } from '@/core/kit/kit';

/** What stands at the right while nothing is selected. */
export function Overview({ sheet }: { sheet: Sheet }) {
  return <p className="p-4 text-quiet">{sheet.name}</p>;
}
