import { PaintView } from '@/views/paint/PaintView';

export default function Page() {
  return <PaintView />;
}
