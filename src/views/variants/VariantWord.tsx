'use client';
import { DropdownMenu } from 'radix-ui';
import { useRef } from 'react';
import { chooseVariant, defaultWord, differenceWords, makeVariant } from '@/state/laying/variants';
import { useColoring } from '@/state/chosen/coloringState';
import { compare } from '@/state/shown/compare';
import { useEditor } from '@/state/kit/editor';
import { useBase } from '@/state/kit/useCurrent';
import { itemLook, Radio } from '@/views/color/phraseWords';
import { shortened } from './shortened';

/**
 * The word at the front of a sentence: the coloring that acts change. It stands out where that is not the default,
 * so that nobody changes one for the other.
 */
export function VariantWord({ canCompare = false }: { canCompare?: boolean }) {
  const base = useBase();
  const chosen = useEditor((s) => s.variant);
  const modelId = useEditor((s) => s.modelId);
  const { variants, models } = base.kit;
  const variant = variants.find((v) => v.id === chosen);
  const hintOf = (v: (typeof variants)[number]) => {
    const of = v.model === undefined ? '' : v.model === modelId ? 'this model alone' : `of ${models.find((m) => m.id === v.model)?.name}`;
    return [of, differenceWords(base, v) || 'as the default'].filter(Boolean).join(', ');
  };
  const isPanelOpening = useRef(false);
  const openPanel = (naming?: string) => {
    isPanelOpening.current = true;
    useColoring.setState({ panel: { kind: 'variants', ...(naming && { naming }) }, drafts: {} });
  };
  return (
    <span className="whitespace-nowrap">
      In{' '}
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          aria-label={`Which coloring: ${variant?.name ?? defaultWord}`}
          className={`border-b-2 border-ink px-0.5 pb-px font-bold data-[state=open]:bg-ink data-[state=open]:text-paper ${variant ? 'bg-ink px-1.5 text-paper hover:bg-[#333]' : 'hover:bg-wash'}`}
        >
          {shortened(variant?.name ?? defaultWord)}
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            sideOffset={6}
            // The panel has the focus then.
            onCloseAutoFocus={(e) => {
              if (isPanelOpening.current) e.preventDefault();
              isPanelOpening.current = false;
            }}
            className="z-50 max-h-[70vh] min-w-64 overflow-y-auto border border-ink bg-white py-1"
          >
            <Radio
              value={chosen ?? ''}
              options={[['', defaultWord, 'what variants start from'], ...variants.map((v) => [v.id, v.name, hintOf(v)] as const)]}
              onChange={(id) => chooseVariant(id || null)}
            />
            <DropdownMenu.Separator className="my-1 h-px bg-hairline" />
            <DropdownMenu.Item
              className={itemLook}
              onSelect={() => {
                const id = makeVariant();
                if (id) openPanel(id);
              }}
            >
              New variant
            </DropdownMenu.Item>
            {canCompare && (
              <DropdownMenu.Item className={itemLook} onSelect={compare}>
                Side by side
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Item className={itemLook} onSelect={() => openPanel()}>
              {variants.length ? 'Variants and what differs in them' : 'About variants'}
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      ,
    </span>
  );
}
