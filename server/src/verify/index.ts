export {
  keepVerification,
  verifyPortfolio,
  verifyWork,
  type Difference,
  type Verification,
  type VerifyParts,
} from './service.js';
