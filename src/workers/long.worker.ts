import { api } from './api';
import { serve } from './serve';

serve(api);
