import { HomeView } from '@/views/home/HomeView';

export default function Page() {
  return <HomeView />;
}
