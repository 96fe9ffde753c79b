<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Engine\Operation\Operation;
use App\Engine\Rpc\EngineClient;
use App\Engine\Rpc\EngineUnavailable;
use App\Http\Middleware\KnownHost;
use App\Http\SignInLimit;
use App\Models\EntryLinkRow;
use App\Models\User;
use Illuminate\Contracts\Auth\StatefulGuard;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\Hash;
use Illuminate\View\View;

/** The ways in and out: sign-in, the one-time link, the demo desk on loopback, sign-out. */
final class EntryController
{
    /** An engine that is there and silent is asked again: a second for its greeting, at most five for an answer. */
    private const TRIES = 5;

    private const MAX_BYTES = 200;

    public function show(Request $request): View|RedirectResponse
    {
        return Auth::check() ? redirect('/') : view('sign-in', $this->page($request));
    }

    /**
     * Failures count for the pair of name and network address, so that nobody locks another out; and for a network address
     * alone, since each costs a worker a quarter of a second.
     */
    public function store(Request $request, SignInLimit $limit): Response|RedirectResponse
    {
        $email = self::text($request, 'email');
        $limit->check($email, (string) $request->ip());
        $user = $email === '' ? null : User::query()->where('email', $email)->first();
        // Somebody who is not known takes as long as somebody who is.
        $isRight = Hash::check(self::text($request, 'password'), $user->password ?? User::nobodysPassword());
        if ($user === null || ! $isRight) {
            $limit->failed($email, (string) $request->ip());

            return response()->view('sign-in', $this->page($request, 'This address and password do not go together.', $email), 422);
        }
        $limit->succeeded($email, (string) $request->ip());

        return $this->enter($request, $user);
    }

    /** Whatever looks at a link beforehand does not use it up: that takes the button. */
    public function link(Request $request, SignInLimit $limit, string $token): Response
    {
        return EntryLinkRow::isOpen($token) ? response()->view('enter', ['token' => $token]) : $this->used($request, $limit);
    }

    public function follow(Request $request, SignInLimit $limit, string $token): Response|RedirectResponse
    {
        $user = EntryLinkRow::redeem($token);

        return $user === null ? $this->used($request, $limit) : $this->enter($request, $user);
    }

    public function demo(Request $request): Response|RedirectResponse
    {
        $user = $this->demoUser($request);

        return $user === null
            ? response()->view('sign-in', $this->page($request, 'The demo desk is open only on this machine.'), 403)
            : $this->enter($request, $user);
    }

    public function destroy(Request $request, EngineClient $engine): Response|RedirectResponse
    {
        $user = $request->user();
        if ($user instanceof User && ! $this->streamsAreClosed($user, $request->session()->getId(), $engine)) {
            // A stream that was left open would go on telling of the account to whoever sits there next.
            return response()->view(
                'sign-in', $this->page($request, 'You are still signed in: the engine is busy. Go back, and sign out again.'), 503,
            );
        }
        $this->guard()->logout();
        $request->session()->invalidate();
        $request->session()->regenerateToken();

        return redirect('/sign-in');
    }

    private function streamsAreClosed(User $user, string $session, EngineClient $engine): bool
    {
        $account = (int) $user->accounts()->value('id');
        for ($tries = 0; $tries < self::TRIES; $tries++) {
            try {
                $engine->for($user, $account)->call(Operation::Revoke, ['session' => $session]);

                return true;
            } catch (EngineUnavailable $fault) {
                if ($fault->isGone) {
                    return true;
                }
            }
        }

        return false;
    }

    private function used(Request $request, SignInLimit $limit): Response
    {
        $limit->linkFailed((string) $request->ip());

        return response()->view(
            'sign-in',
            $this->page($request, 'That link has been used or is not known. Sign in, or start Lotrik again for a new one.'),
            410,
        );
    }

    /** @return array{demo: bool, fault: string|null, email: string} */
    private function page(Request $request, ?string $fault = null, string $email = ''): array
    {
        return ['demo' => $this->demoUser($request) !== null, 'fault' => $fault, 'email' => $email];
    }

    private static function text(Request $request, string $field): string
    {
        $value = $request->input($field);

        return is_string($value) && strlen($value) <= self::MAX_BYTES && mb_check_encoding($value, 'UTF-8') && ! str_contains($value, "\0")
            ? $value
            : '';
    }

    private function enter(Request $request, User $user): RedirectResponse
    {
        $this->guard()->login($user);
        $request->session()->regenerate();

        return redirect('/');
    }

    private function guard(): StatefulGuard
    {
        $guard = Auth::guard('web');
        assert($guard instanceof StatefulGuard);

        return $guard;
    }

    private function demoUser(Request $request): ?User
    {
        return config('lotrik.demo_entry') && in_array(KnownHost::of($request), config('lotrik.loopback'), true)
            ? User::query()->where('demo', true)->first()
            : null;
    }
}
