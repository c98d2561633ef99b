import { GatherView } from '@/views/gather/GatherView';

export default function Page() {
  return <GatherView />;
}
