import { ProofView } from '@/views/proof/ProofView';

export default function Page() {
  return <ProofView />;
}
