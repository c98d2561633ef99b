import { pickingApi } from './pickingApi';
import { serve } from './serve';

serve(pickingApi);
