export {
  keepVerification,
  verifyPortfolio,
  verifyHere,
  verifyWork,
  type Difference,
  type Verification,
  type VerifyParts,
} from './service.js';
