<x-layout title="You">
  <header class="title">
    <h1>{{ $me->name }}</h1>
    <span class="mono soft">{{ $me->sign_in }}</span>
  </header>
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>Where you are signed in</h2>
        </header>
        @if ($sessions->isEmpty())
          <p class="pad open">only here</p>
        @else
          <x-table label="Sessions">
            <thead>
              <tr>
                <th>From</th>
                <th>With</th>
                <th>Last used</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($sessions as $one)
                <tr>
                  <td class="mono">{{ $one->ip_address }}@if ($one->id === $here)
                      <span class="soft">this one</span>
                    @endif
                  </td>
                  <td class="wrap">{{ Str::limit((string) $one->user_agent, 90) }}</td>
                  <td>{{ Carbon\CarbonImmutable::createFromTimestamp($one->last_activity)->diffForHumans() }}</td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
        <form class="pad-all" method="post" action="{{ at('act', 'end-sessions') }}">
          @csrf
          <input type="hidden" name="then" value="commit">
          <button class="btn">Sign out everywhere else</button>
        </form>
        @if ($me->outside_subject !== null)
          <p class="pad row">
            <a class="btn small" href="{{ at('sign-in.with') }}">Show at {{ config('harbor.oidc.name') }} who you are</a>
            <span class="hint">what gives rights then asks for no password, for ten minutes</span>
          </p>
        @endif
      </section>
      <section class="panel">
        <header>
          <h2>Programs that act for you</h2>
          <span class="soft">by a token each, within your rights</span>
          <a class="end" href="{{ at('api') }}">What they can ask</a>
        </header>
        @if ($tokens->isEmpty())
          <p class="pad open">none</p>
        @else
          <x-table label="Tokens" data-worktable>
            <thead>
              <tr>
                <th>Program</th>
                <th>May</th>
                <th>Last used</th>
                <th>Ends</th>
                <th><span class="sr">Acts</span></th>
              </tr>
            </thead>
            <tbody>
              @foreach ($tokens as $t)
                <tr>
                  <td class="name">{{ $t->name }}</td>
                  <td class="wrap">{{ $t->may() }}</td>
                  <td title="{{ $t->last_used_at }}">{{ $t->last_used_at?->diffForHumans() ?? 'never' }}</td>
                  <td title="{{ $t->expires_at }}">{{ $t->expires_at?->diffForHumans() ?? 'never' }}</td>
                  <td>
                    <form method="post" action="{{ at('act', 'revoke-token') }}">
                      @csrf
                      <input type="hidden" name="then" value="commit">
                      <input type="hidden" name="token" value="{{ $t->id }}">
                      <button class="btn stop small" aria-label="End the token of {{ $t->name }}">End the token</button>
                    </form>
                  </td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
    </div>
    <div class="side">
      <section class="panel">
        <header>
          <h2>Change your password</h2>
        </header>
        <form class="form pad" method="post" action="{{ at('act', 'change-password') }}">
          @csrf
          <input type="hidden" name="then" value="commit">
          <div class="field">
            <span><label for="old">Present password</label></span>
            <input id="old" name="old" type="password" autocomplete="current-password" required>
          </div>
          <div class="field">
            <span><label for="new">New password</label></span>
            <input id="new" name="new" type="password" autocomplete="new-password" minlength="12" maxlength="200" required>
            <span class="hint">at least 12 characters, none of the common ones; your other sessions end</span>
          </div>
          <div class="decide"><button class="btn main" data-key="main">Change it <kbd>Ctrl Enter</kbd></button></div>
        </form>
      </section>
      <section class="panel" id="mail">
        <header>
          <h2>Mail</h2>
        </header>
        <form class="form pad" method="post" action="{{ at('act', 'set-mail') }}">
          @csrf
          <input type="hidden" name="then" value="commit">
          <div class="field"><span><label for="mail-address">Address</label></span>
            <input id="mail-address" name="mail" type="email" maxlength="190" value="{{ $me->mail }}" autocomplete="email">
          </div>
          <div class="field"><span><label for="mail-when">You get</label></span>
            <select id="mail-when" name="when">
              @foreach (\App\Models\MailWhen::cases() as $w)
                <option value="{{ $w->value }}" @selected($w === $me->mail_when)>{{ $w->words() }}</option>
              @endforeach
            </select>
          </div>
          <div class="pair">
            <div class="field"><span><label for="mail-zone">Time zone</label></span>
              <input id="mail-zone" name="zone" maxlength="64" value="{{ $me->mail_zone }}" placeholder="{{ config('harbor.mail.zone') }}" list="zones">
            </div>
            <div class="field"><span><label for="mail-hour">Hour of the daily one</label></span>
              <input id="mail-hour" name="hour" inputmode="numeric" maxlength="2" value="{{ $me->mail_hour }}" placeholder="{{ config('harbor.mail.hour') }}">
            </div>
          </div>
          <div class="pair">
            <div class="field"><span><label for="quiet-from">Quiet from</label></span>
              <input id="quiet-from" name="quietFrom" type="time"
                value="{{ $me->quiet_from === null ? '' : \HarborPost\Core\Watch\QuietHours::time($me->quiet_from) }}">
            </div>
            <div class="field"><span><label for="quiet-to">to</label></span>
              <input id="quiet-to" name="quietTo" type="time"
                value="{{ $me->quiet_to === null ? '' : \HarborPost\Core\Watch\QuietHours::time($me->quiet_to) }}">
            </div>
          </div>
          <p class="hint">What is told in quiet hours comes as one mail after them; at once comes only what nobody looks after and is told further
            to you.</p>
          <datalist id="zones">
            @foreach (\DateTimeZone::listIdentifiers() as $z)
              <option value="{{ $z }}"></option>
            @endforeach
          </datalist>
          <div class="decide"><button class="btn">Keep</button></div>
        </form>
      </section>
      <section class="panel">
        <header>
          <h2>Second factor</h2>
        </header>
        <div class="pad">
          @if ($me->code_secret === null)
            <p>@mark('warn') Your password alone opens your sign-in.</p>
            <p><a class="btn" href="{{ at('me.second-factor') }}">Set one up</a></p>
          @else
            <p>@mark('ok') A code of your device is asked for. {{ count($me->paper_codes ?? []) }} codes on paper are left.</p>
            <form class="form" method="post" action="{{ at('act', 'drop-second-factor') }}">@csrf
              <input type="hidden" name="then" value="commit">
              <input type="hidden" name="person" value="{{ $me->id }}">
              <div class="field"><span><label for="drop-password">Present password</label></span><input id="drop-password" name="password"
                  type="password" autocomplete="current-password" required></div>
              <div class="decide"><button class="btn stop">Remove the second factor</button></div>
            </form>
          @endif
        </div>
      </section>
      <section class="panel">
        <header>
          <h2>Make a token</h2>
        </header>
        <form class="form pad" method="post" action="{{ at('act', 'make-token') }}">
          @csrf
          <input type="hidden" name="then" value="commit">
          <div class="field"><span><label for="token-name">Program</label></span>
            <input id="token-name" name="name" maxlength="80" required autocomplete="off">
          </div>
          <label class="tick"><input type="checkbox" name="writes" value="1">it may do acts; without this it reads</label>
          <div class="field"><span><label for="token-acts">Only these acts</label></span>
            <input id="token-acts" name="acts" class="mono" placeholder="place-host change-host" autocomplete="off" spellcheck="false">
          </div>
          <div class="field"><span><label for="token-days">Ends after, days</label></span>
            <input id="token-days" name="days" type="number" min="1" max="3650" value="90">
          </div>
          <div class="decide"><button class="btn">Make it</button></div>
          <p class="hint">It is shown once. The history names the program with every change.</p>
        </form>
      </section>
    </div>
  </div>
</x-layout>
