import { ColorView } from '@/views/color/ColorView';

export default function Page() {
  return <ColorView />;
}
