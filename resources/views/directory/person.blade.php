<x-layout :title="$person->name" verb="directory" work="right-test" does="a test of rights">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('directory.list', 'people') }}">People</a></li>
      <li aria-current="page">{{ $person->name }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $person->name }}</h1>
    <span class="soft"><span class="mono">{{ $person->sign_in }}</span>,
      {{ implode(', ', array_map(fn($x) => str_replace('-', ' ', $x), $person->roles)) }}{{ $person->active ? '' : ', sign-in closed' }}
      {{ $teams === '' ? '' : 'in ' . $teams }}</span>
    <span class="end row">
      @if ($person->id !== auth()->id())
        <form method="post" action="{{ at('directory.sees-as.person', $person->id) }}">@csrf
          <button class="btn small">See it as {{ explode(' ', $person->name)[0] }} does</button>
        </form>
      @endif
      <a class="btn small" href="{{ at('watch') }}?object={{ $person->id }}">History</a>
    </span>
  </header>
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>Sees</h2>
        </header>
        <dl class="facts pad">
          @foreach ($sees as $what => $count)
            <dt>{{ ucfirst($what) }}</dt>
            <dd>{{ number_format($count) }}</dd>
          @endforeach
          <dt>Names granted</dt>
          <dd>
            @forelse ($grants as $g)
              {{ $g->owner ? rtrim($g->owner, '.') . ($g->below ? ' and below' : '') : "all of {$g->zone->title()}" }}{{ $loop->last ? '' : ', ' }}
            @empty
              none
            @endforelse
          </dd>
        </dl>
      </section>
      <section class="panel" id="ask">
        <header>
          <h2>May {{ explode(' ', $person->name)[0] }} do this there?</h2>
        </header>
        <form class="bar-line" action="{{ at('directory.person', $person->id) }}#ask">
          <label class="sr" for="may">do</label>
          <select id="may" name="may">
            @foreach (\App\Models\Ability::cases() as $a)
              <option value="{{ $a->value }}" @selected($a === $ability)>{{ $a->words() }}</option>
            @endforeach
          </select>
          <label class="sr" for="at">in this prefix or zone</label>
          <input id="at" name="at" class="mono" value="{{ $asked }}" placeholder="10.32.0.0/14 or a zone">
          <button class="btn small">Ask</button>
        </form>
        @if ($asked !== '' && $answer === null)
          <p class="pad">@mark('warn') "{{ $asked }}" is no prefix of the plan and no zone.</p>
        @elseif ($answer !== null)
          <div class="pad">
            <p>@mark($answer['may'] ? 'ok' : 'stop') {{ $person->name }} {{ $answer['may'] ? 'may' : 'may not' }} {{ $ability->words() }} in
              {{ $at->line() }}{{ $answer['may'] ? ':' : '.' }}</p>
            <ul class="lines">
              @foreach ($answer['says'] as $s)
                <li>{{ $s }}</li>
              @endforeach
            </ul>
            @if (!$answer['may'] && $answer['near'] !== [])
              <p class="soft">What comes near:</p>
              <ul class="lines">
                @foreach ($answer['near'] as $s)
                  <li>{{ $s }}</li>
                @endforeach
              </ul>
            @endif
          </div>
        @endif
        <ul class="lines pad">
          @forelse ($granted as $g)
            <li><a href="{{ at('directory.grants') }}?grant={{ $g->id }}#grant">{{ $g->sentence() }}</a></li>
          @empty
            <li class="soft">Nothing is granted beyond roles. <a href="{{ at('directory.grants') }}#grant">Grant something</a></li>
          @endforelse
        </ul>
      </section>
      <section class="panel">
        <header>
          <h2>May do</h2>
          <span class="soft">on what they see; each row is asked for once more when it is written</span>
        </header>
        <x-table label="May do">
          <thead>
            <tr>
              <th>Room</th>
              <th>May</th>
              <th>May not</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($acts as $room => $which)
              <tr>
                <td class="name">{{ $room }}</td>
                <td class="wrap">{{ implode(', ', $which['may'] ?? []) }}</td>
                <td class="wrap open">{{ implode(', ', $which['not'] ?? []) }}</td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
      </section>
      <section class="panel">
        <header>
          <h2>Tests of rights</h2>
          <span class="soft">tried every hour; one that turned is a notice</span>
        </header>
        @if ($tests->isEmpty())
          <x-empty title="No test yet">Lay down what {{ $person->name }} must not see or write. A grant that opens too much is then noticed.</x-empty>
        @else
          <x-table label="Tests of rights">
            <thead>
              <tr>
                <th>Test</th>
                <th>Now</th>
                <th><span class="sr">Acts</span></th>
              </tr>
            </thead>
            <tbody>
              @foreach ($tests as $t)
                <tr>
                  <td class="wrap">{{ $t->sentence() }}</td>
                  <td>
                    @if ($t->found === null)
                      <span class="open">the object is gone</span>
                    @elseif ($t->hasTurned())
                      @mark('stop') not so any more
                    @else
                      @mark('ok') so, {{ $t->run_at?->diffForHumans() }}
                    @endif
                  </td>
                  <td>
                    <x-cut :id="'cut' . $t->id" action="remove-right-test" :input="['test' => $t->id]" label="Remove" :of="$t->sentence()" />
                  </td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
    </div>
    <div class="side">
      @if ($person->id !== auth()->id())
        <section class="panel">
          <header>
            <h2>Change</h2>
          </header>
          <div class="pad">
            <x-act id="changeperson" action="change-person" :seen="['person:' . $person->id => $person->version]">
              <input type="hidden" name="person" value="{{ $person->id }}">
              <input type="hidden" name="roles[]" value="">
              <x-field form="changeperson" name="name" label="Name" :value="$person->name" />
              <x-field form="changeperson" name="roles[]" label="Roles" multiple :value="$person->roles" :options="collect(\App\Models\Role::cases())
                  ->mapWithKeys(fn($r) => [$r->value => str_replace('-', ' ', $r->value) . ': ' . $r->explained()])
                  ->all()" />
              @if (config('harbor.oidc.issuer') !== '' && !$person->program)
                <x-field form="changeperson" name="outside" :label="'Known at ' . config('harbor.oidc.name') . ' as'" :value="$person->outside_name ?? ''"
                  :hint="$person->outside_subject === null ? 'nobody came with that name yet' : 'bound to who came first with that name'" />
              @endif
              <x-field form="changeperson" name="active" :label="$person->program ? 'Its tokens are' : 'Sign-in is'" :value="$person->active ? '1' : '0'"
                :options="['1' => 'open', '0' => 'closed']" />
            </x-act>
            <x-cut id="cutperson" action="remove-person" :input="['person' => $person->id]" target="#follows-changeperson" label="Remove" :of="$person->name"
              class="row end" />
          </div>
        </section>
        <x-follows-slot form="changeperson" />
      @endif
      <section class="panel">
        <header>
          <h2>Keep a test</h2>
        </header>
        <div class="pad">
          <x-act id="right-test" action="keep-right-test">
            <input type="hidden" name="person" value="{{ $person->id }}">
            <div class="pair">
              <x-field form="right-test" name="expected" :label="explode(' ', $person->name)[0]" :options="['no' => 'may not', 'yes' => 'may']" value="no" />
              <x-field form="right-test" name="does" label="do" :options="['see' => 'see', 'write' => 'write']" value="see" />
            </div>
            <x-field form="right-test" name="object" label="this prefix or zone" mono placeholder="10.32.0.0/14" />
          </x-act>
        </div>
      </section>
      <x-follows-slot form="right-test" />
      @if ($person->program)
        <section class="panel">
          <header>
            <h2>Tokens</h2>
            <span class="soft">of this program, which acts for nobody</span>
          </header>
          <ul class="plain-list pad-all">
            @forelse ($programTokens as $t)
              <li class="row">
                <span class="grow"><b>{{ $t->name }}</b> may {{ $t->may() }}
                  <span class="hint">used {{ $t->last_used_at?->diffForHumans() ?? 'never' }}, ends {{ $t->expires_at?->diffForHumans() }}</span></span>
                <form method="post" action="{{ at('act', 'revoke-program-token') }}">
                  @csrf
                  <input type="hidden" name="then" value="commit">
                  <input type="hidden" name="token" value="{{ $t->id }}">
                  <button class="btn stop small" aria-label="End the token of {{ $t->name }}">End it</button>
                </form>
              </li>
            @empty
              <li class="open">none yet</li>
            @endforelse
          </ul>
          <div class="pad">
            <x-act id="programtoken" action="make-program-token">
              <input type="hidden" name="person" value="{{ $person->id }}">
              <x-field form="programtoken" name="name" label="Name" />
              <div class="pair">
                <x-field form="programtoken" name="writes" label="May" :options="['' => 'read', '1' => 'read and do acts']" />
                <x-field form="programtoken" name="days" label="Days until it ends" value="365" inputmode="numeric" />
              </div>
              <x-field form="programtoken" name="acts" label="Acts" mono
                hint="keys as place-host, apart by commas; all that the program may when none is named" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="programtoken" />
      @endif
      <section class="panel">
        <header>
          <h2>Signs in</h2>
        </header>
        <ul class="lines pad">
          @if ($person->program)
            <li>@mark('ok') nowhere: it is a program</li>
          @else
            <li>@mark($person->code_secret === null ? 'warn' : 'ok')
              {{ $person->code_secret === null ? 'with the password alone' : 'with a second factor' }}</li>
          @endif
          <li>{{ $tokens === 1 ? '1 program acts' : "$tokens programs act" }} for {{ explode(' ', $person->name)[0] }}</li>
          @foreach ($lately as $l)
            <li class="hint">{{ \Carbon\CarbonImmutable::parse($l->at)->diffForHumans() }}: {{ str_replace('-', ' ', $l->action) }}
              {{ ($from = ((array) json_decode($l->after ?? '[]', true))['from'] ?? '') === '' ? '' : "from $from" }}</li>
          @endforeach
        </ul>
      </section>
    </div>
  </div>
</x-layout>
