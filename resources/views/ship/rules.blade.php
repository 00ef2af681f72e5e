<x-layout title="Rules of agreement" verb="ship" :work="$may ? 'rule' : null" does="make a rule">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('ship') }}">Ship</a></li>
      <li><a href="{{ at('ship.drafts') }}">Drafts</a></li>
      <li aria-current="page">Rules of agreement</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Rules of agreement</h1>
    <span class="soft">asked of every change on a page, in a file or by a program</span>
  </header>
  <div class="split @if ($may) two @endif">
    <div class="stack">
      <section class="panel">
        @if ($rules->isEmpty())
          <x-empty title="No rule: everybody commits what they may">A rule says which changes others have to agree to: those that remove a zone,
            that touch many rows or one site, that carry a warning.</x-empty>
        @else
          <x-table label="Rules" data-worktable>
            <thead>
              <tr>
                <th>Rule</th>
                <th>Of the last {{ \App\Queries\RuleTrial::DAYS }} days</th>
                @if ($may)
                  <th><span class="sr">Acts</span></th>
                @endif
              </tr>
            </thead>
            <tbody>
              @foreach ($rules as $r)
                <tr>
                  <td class="wrap">{{ $r->rule()->sentence() }}</td>
                  <td>
                    @if ($trials[$r->id] === null)
                      <span class="open">history does not tell it</span>
                    @else
                      {{ number_format($trials[$r->id]['stopped']) }} of {{ number_format($trials[$r->id]['of']) }} changes
                    @endif
                  </td>
                  @if ($may)
                    <td>
                      <x-cut :id="'cutrule' . $loop->index" action="remove-rule" :input="['rule' => $r->id]" target="#follows-rule" label="Remove" />
                    </td>
                  @endif
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
      <section class="panel">
        <header>
          <h2>Approvers</h2>
          <span class="end row"><a class="btn small" href="{{ at('directory.teams') }}">Teams</a></span>
        </header>
        <p class="pad-all">{{ $approvers->pluck('name')->implode(', ') ?: 'Nobody has the role.' }}
          <span class="hint">Nobody agrees to a draft of their own. A steward may commit in an emergency, with the reason, and approvers see it.
            Servers, keys and people are changed by stewards and operators alone: they hold secrets, so no draft holds them.</span>
        </p>
      </section>
    </div>
    @if ($may)
      <div class="side">
        <section class="panel">
          <header>
            <h2>Make a rule</h2>
          </header>
          <div class="pad">
            <x-act id="rule" action="make-rule">
              <x-field form="rule" name="kind" label="A change that" :options="$kinds" value="removes" />
              <x-field form="rule" name="noun" label="Kind of object, for removes and touches" :options="array_combine($nouns, $nouns)" value="zone" />
              <div class="pair">
                <x-field form="rule" name="rows" label="Rows" type="number" min="0" value="50" />
                <x-field form="rule" name="needs" label="Approvers" type="number" min="1" max="9" value="1" />
              </div>
              <x-field form="rule" name="site" label="Site, with all inside" pick="site" />
              <x-field form="rule" name="team" label="Who agrees" :options="$teams" blank="any approver" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="rule" />
      </div>
    @endif
  </div>
</x-layout>
