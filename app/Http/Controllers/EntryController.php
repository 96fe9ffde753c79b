<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Engine\Rpc\EngineClient;
use App\Engine\Rpc\EngineUnavailable;
use App\Http\Middleware\KnownHost;
use App\Models\AccountRow;
use App\Models\EntryLink;
use App\Models\User;
use Illuminate\Contracts\Auth\StatefulGuard;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Illuminate\View\View;

/** The ways in and out: sign-in, the one-time link, the demo desk on loopback, sign-out. */
final class EntryController
{
    public function show(Request $request): View|RedirectResponse
    {
        return Auth::check() ? redirect('/') : view('sign-in', ['demo' => $this->demoUser($request) !== null]);
    }

    public function store(Request $request): RedirectResponse
    {
        $known = $request->validate(['email' => 'required|string|max:200', 'password' => 'required|string|max:200']);
        if (! Auth::attempt($known)) {
            return back()->withInput(['email' => $known['email']])->withErrors(['email' => 'This address and password do not go together.']);
        }
        $request->session()->regenerate();

        return redirect()->intended('/');
    }

    public function link(Request $request, string $token): RedirectResponse
    {
        $user = EntryLink::redeem($token);
        if ($user === null) {
            return redirect('/sign-in')->withErrors(['email' => 'That link has been used or is not known. Sign in, or start Lotrik again for a new one.']);
        }

        return $this->enter($request, $user);
    }

    public function demo(Request $request): RedirectResponse
    {
        $user = $this->demoUser($request);

        return $user === null ? redirect('/sign-in')->withErrors(['email' => 'The demo desk is open only on this machine.']) : $this->enter($request, $user);
    }

    public function destroy(Request $request, EngineClient $engine): RedirectResponse
    {
        $user = $request->user();
        if ($user instanceof User) {
            try {
                $account = (int) AccountRow::query()->where('owner', $user->id)->value('id');
                $engine->for($user, $account)->call('revoke', ['session' => $request->session()->getId()]);
            } catch (EngineUnavailable) {
                // An engine that is away has no streams to close.
            }
        }
        $this->guard()->logout();
        $request->session()->invalidate();
        $request->session()->regenerateToken();

        return redirect('/sign-in');
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
        return config('lotrik.demo_entry') && in_array(KnownHost::of($request), config('lotrik.loopback'), true) ? User::query()->where('demo', true)->first() : null;
    }
}
