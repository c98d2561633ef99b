import { stampLimits } from '@/core/ground/limits';
import { svgOutlines, type SvgPath } from '@/core/shapes/cut/svgOutlines';
import { usePhrase } from '../chosen/phrase';
import { announce } from '../told/announce';
import { notifyError } from '../told/notices';

/** Takes the outlines of an SVG file as what is stamped, as wide as before. */
export async function stampFromSvg(file: File): Promise<void> {
  try {
    if (file.size > stampLimits.bytes) throw new Error(`“${file.name}” is larger than 1 MB; a stamp needs a few outlines only.`);
    const { outlines, aspect } = svgOutlines(pathsOf(await file.text(), file.name));
    const { stamp } = usePhrase.getState();
    const height = Number((stamp.width * aspect).toPrecision(3));
    usePhrase.setState({ stamp: { ...stamp, shape: 'drawn', drawn: { name: file.name, outlines }, height } });
    announce(`The outline of ${file.name} is stamped`);
  } catch (error) {
    notifyError(error);
  }
}

function pathsOf(text: string, name: string): SvgPath[] {
  const document = new DOMParser().parseFromString(text, 'image/svg+xml');
  const paths = [...document.querySelectorAll('path[d]')];
  if (!paths.length) throw new Error(`“${name}” has no path. Turn its shapes into paths where it was drawn.`);
  return paths.map((path) => {
    const transforms: string[] = [];
    for (let e: Element | null = path; e; e = e.parentElement) {
      const own = e.getAttribute('transform');
      if (own) transforms.unshift(own);
    }
    return { d: path.getAttribute('d')!, transforms };
  });
}
