'use client';

interface Step {
  title: string;
  says: string;
  picture: string;
  /** Of the picture, for those who do not see it. */
  shows: string;
}

/** The way of one model through the application, in plain words. */
const steps: Step[] = [
  {
    title: 'Gather',
    says: 'Bring in the tower, the cottage and the buoys of the skerry: drop OBJ, glTF, PLY or STL files anywhere. What is wrong with a model is listed, and one click repairs it. Colors that it brought along can be taken over. Where there is nothing to decide, Color opens at once.',
    picture: 'gather-report.png',
    shows: 'The report of the keeper’s cottage, with its faults and its thirteen materials',
  },
  {
    title: 'Plan the colors, or do not',
    says: 'All models share one tiny picture, the sheet. A list like “lime wash 3, band red 3, slate, dark blue trousers, 3 spare” makes it; so do a palette file, a picture, or the colors that come as you need them. Change a color later, and every face on it follows.',
    picture: 'palette-plan.png',
    shows: 'A sheet planned from a list of words',
  },
  {
    title: 'Color',
    says: 'Read the sentence above the model: it says what a click does, and each underlined word is a choice. Point, and what a click would take is hatched. Click the tower’s wall, then click a color in the tray. Double click takes more; Shift adds; Y drags a box. R brings you to the next faces without a color.',
    picture: 'color.png',
    shows: 'The light tower in Color, its red bands picked',
  },
  {
    title: 'Gradients and art',
    says: 'Drag along a gradient’s bar with faces picked, and they lie along it: dark at the foot of the rocks, pale at their tops. What truly needs pixels, such as fur or a sign, is painted in Paint: texels that know their color.',
    picture: 'color-gradient.png',
    shows: 'Rocks that lie along a gradient',
  },
  {
    title: 'Proof',
    says: 'Faces forgotten, colors that run together from afar, names that clash: all is listed with the reason, shown on the model, and mended by a click where one can mend it. What is meant so is let be.',
    picture: 'proof.png',
    shows: 'What stands open before the kit leaves',
  },
  {
    title: 'Hand-off',
    says: 'One file at a time, or whole folders by a plan that a game takes as they are. The file that comes back into Color brings its colors along. Everything is saved as you work, in this browser; undo has no end.',
    picture: 'hand-off-plan.png',
    shows: 'A plan, the files that it writes, and what left',
  },
];

export function HowItGoes() {
  return (
    <div className="mt-4 grid grid-cols-2 gap-x-8 gap-y-6">
      {steps.map(({ title, says, picture, shows }, i) => (
        <section key={title}>
          <h3 className="mb-1 border-b border-ink pb-1 font-bold">
            {i + 1}. {title}
          </h3>
          <p>{says}</p>
          {/* Pictures of the application's own docs, copied beside it; there is nothing to optimize. */}
          {/* eslint-disable-next-line @next/next/no-img-element */}
          <img
            src={`/help/${picture}`}
            alt={shows}
            width={1280}
            height={800}
            loading="lazy"
            className="mt-2 h-auto w-full border border-hairline"
          />
        </section>
      ))}
    </div>
  );
}
