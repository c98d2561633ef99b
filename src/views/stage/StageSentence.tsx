'use client';
import { choosePlacement, holdModel, useStage } from '@/state/stage/stage';
import { useBase } from '@/state/kit/useCurrent';
import { Button } from '@/ui/Button';
import { count } from '@/ui/words';
import { Radio, Word } from '@/views/color/phraseWords';
import { useFittingText } from '@/views/color/useFittingText';
import { PlayButton } from './PlayPanel';

const steps = [0, 0.25, 0.5, 1, 2, 4];
const turns = [5, 15, 30, 45, 90];

/** What a click on the stage does, in one sentence whose underlined words change it. */
export function StageSentence() {
  const { models, variants, cues = [], placements = [] } = useBase().kit;
  const { act, model, variant, turn, step, turnStep, chosen, showsCues } = useStage();
  const sentence = useFittingText();
  const held = models.find((m) => m.id === model);
  const own = variants.filter((v) => v.model === undefined || v.model === model);
  return (
    <div className="flex h-[50px] shrink-0 items-center gap-4 border-b border-hairline bg-paper px-5">
      <p
        ref={sentence}
        aria-label="What a click does"
        className="flex min-w-0 flex-1 items-baseline gap-x-[0.35em] overflow-hidden text-phrase whitespace-nowrap"
      >
        <Word label="What a click does" value={act === 'place' ? 'Place' : 'Choose'}>
          <Radio
            value={act}
            options={[
              ['choose', 'Choose', 'what stands there'],
              ['place', 'Place', 'a model of the kit'],
            ]}
            onChange={(to) => (to === 'place' ? models[0] && holdModel(model ?? models[0].id) : choosePlacement(null))}
          />
        </Word>
        {act === 'place' && held ? (
          <>
            <Word label="Which model" value={held.name}>
              <Radio value={held.id} options={models.map((m) => [m.id, m.name, ''] as const)} onChange={holdModel} />
            </Word>
            <span>in</span>
            <Word label="Starting coloring" value={own.find((v) => v.id === variant)?.name ?? 'default'}>
              <Radio
                value={variant ?? ''}
                options={[['', 'default', ''], ...own.map((v) => [v.id, v.name, ''] as const)]}
                onChange={(id) => useStage.setState({ variant: id || null })}
              />
            </Word>
            <span>turned by {turn}°, on</span>
          </>
        ) : (
          <span>what stands there; a drag moves it, on</span>
        )}
        <Word label="Grid" value={step ? `a grid of ${step} m` : 'no grid'}>
          <Radio
            value={String(step)}
            options={steps.map((s) => [String(s), s ? `a grid of ${s} m` : 'no grid', ''] as const)}
            onChange={(s) => useStage.setState({ step: Number(s) })}
          />
        </Word>
        <span className="-ml-[0.35em]">; R turns by</span>
        <Word label="One turn" value={`${turnStep}°`}>
          <Radio
            value={String(turnStep)}
            options={turns.map((t) => [String(t), `${t}°`, ''] as const)}
            onChange={(t) => useStage.setState({ turnStep: Number(t) })}
          />
        </Word>
        <span className="-ml-[0.35em]">.</span>
        {chosen.length > 1 && <span className="pl-2 text-panel text-quiet">{count(chosen.length, 'chosen', 'chosen')}</span>}
      </p>
      <Button className="min-h-7" aria-expanded={showsCues} onClick={() => useStage.setState({ showsCues: !showsCues })}>
        Cues <span className="font-normal text-quiet">{cues.length}</span>
      </Button>
      <PlayButton disabled={!placements.length} />
    </div>
  );
}
