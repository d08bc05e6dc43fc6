import { useMutation } from '@tanstack/react-query';
import type {
  PublicKeyCredentialCreationOptionsJSON,
  PublicKeyCredentialRequestOptionsJSON,
} from '@simplewebauthn/browser';
import { asError, client, read, type Problem, type Schemas } from '../api/client';

/** Why there can be no passkey where somebody is now; nothing where there can. */
export function withoutPasskeys({ passkeyHost }: Schemas['Session']): string | undefined {
  if (passkeyHost === undefined) {
    return "Browsers make passkeys only where the school's address begins with https:// and is a name, not a number. An owner can change it under School.";
  }
  if (passkeyHost !== window.location.hostname) {
    return `Passkeys are good at ${passkeyHost}; you came by ${window.location.hostname}.`;
  }
  return Reflect.has(window, 'PublicKeyCredential') ? undefined : 'This browser knows no passkeys.';
}

type Library = typeof import('@simplewebauthn/browser');

/** What the device answers, as the server reads it; what it refuses, in words. */
async function byDevice(ask: (library: Library) => Promise<object>): Promise<Record<string, unknown>> {
  const library = await import('@simplewebauthn/browser');
  try {
    return { ...(await ask(library)) };
  } catch (error) {
    const hasOne =
      error instanceof library.WebAuthnError && error.code === 'ERROR_AUTHENTICATOR_PREVIOUSLY_REGISTERED';
    throw hasOne
      ? told('This device has one already', 'It is in the list of your passkeys.')
      : told(
          'The device did not answer',
          'It was not confirmed there in time, or the device has no passkey.',
        );
  }
}

function told(title: string, detail: string) {
  return asError({ title, detail, status: 0 });
}

/** Has the device make a passkey, and the server keep it. */
export function useNewPasskey(onDone: () => void) {
  return useMutation<unknown, Problem, string>({
    mutationFn: async (name) => {
      const offered = await read(client.POST('/api/session/passkeys/offer'));
      const credential = await byDevice((library) =>
        library.startRegistration({
          optionsJSON: offered as unknown as PublicKeyCredentialCreationOptionsJSON,
        }),
      );
      await read(client.POST('/api/session/passkeys', { body: { name, credential } }));
    },
    onSuccess: onDone,
  });
}

/** Has the device show a passkey: to sign in, or to prove that it is still them. */
export function useShownPasskey(
  to: '/api/session/passkey' | '/api/session/proof/passkey',
  onDone: () => void,
) {
  return useMutation<unknown, Problem>({
    mutationFn: async () => {
      const asked = await read(client.POST('/api/session/passkey/ask'));
      const credential = await byDevice((library) =>
        library.startAuthentication({
          optionsJSON: asked as unknown as PublicKeyCredentialRequestOptionsJSON,
        }),
      );
      await read(client.POST(to, { body: { credential } }));
    },
    onSuccess: onDone,
  });
}

export type ShownPasskey = ReturnType<typeof useShownPasskey>;
