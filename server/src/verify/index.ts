export {
  keepVerification,
  verifyDaily,
  verifyPortfolio,
  type Difference,
  type Verification,
  type VerifyParts,
} from './service.js';
