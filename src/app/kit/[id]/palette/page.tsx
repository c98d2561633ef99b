import { PaletteView } from '@/views/palette/PaletteView';

export default function Page() {
  return <PaletteView />;
}
