import { SignInForm } from '@/places/signIn/signInForm';

export const dynamic = 'force-dynamic';

/** The way in from another machine. */
export default function SignInPage() {
  return <SignInForm />;
}
