import { IslandsView } from '@/views/islands/IslandsView';

export default function Page() {
  return <IslandsView />;
}
