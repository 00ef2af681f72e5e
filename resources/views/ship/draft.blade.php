<x-layout title="My draft" verb="ship">
  <nav aria-label="Above">
    <ol class="path">
      @unless (auth()->user()->isBound())
        <li><a href="/ship">Ship</a></li>
      @endunless
      <li aria-current="page">My draft</li>
    </ol>
  </nav>
  <header class="title">
    <h1>My draft</h1>
    @if ($draft)
      <span class="soft">{{ $draft->edits->count() }} {{ Str::plural('edit', $draft->edits->count()) }} since
        {{ $draft->started_at->format('j M H:i') }}, none of them true yet</span>
    @endif
    @unless (auth()->user()->isBound())
      <span class="end row"><a class="btn small" href="/ship/drafts">All drafts</a></span>
    @endunless
  </header>
  @if (!$draft || $draft->edits->isEmpty())
    <section class="panel">
      <div class="empty">
        <h3>The draft is empty</h3>
        <p class="soft">Every edit can be added to it instead of being committed: carve a subnet, place its hosts, make the scope, and commit them
          as one.</p>
      </div>
    </section>
  @else
    <div class="split two">
      <section class="panel">
        <header>
          <h2>Edits, in order</h2>
        </header>
        <x-table label="Edits" data-worktable>
          <thead>
            <tr>
              <th class="num">No.</th>
              <th>Edit</th>
              <th>Writes</th>
              <th>Holds</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            @foreach ($draft->edits as $i => $e)
              @php
                $l = $outcome->ledgers[$i] ?? null;
                $block = $l ? collect($l->notes)->firstWhere('verdict', 'blocked') : null;
              @endphp
              <tr class="drafted">
                <td class="num">{{ $i + 1 }}</td>
                <td class="name wrap">{{ $e->title }}</td>
                <td>{{ $l ? number_format($l->rows()) . ' ' . Str::plural('row', $l->rows()) : '' }}</td>
                <td class="wrap">
                  @if ($block)
                    <span class="stopped">@mark('stop') {{ $block->message }}.</span> {{ $block->why }}
                  @elseif(!$l)
                    <span class="open">not reached</span>
                  @elseif(collect($l->notes)->contains('verdict', 'warned'))
                    @mark('warn') {{ collect($l->notes)->where('verdict', 'warned')->count() }} warned
                  @else
                    @mark('ok') yes
                  @endif
                </td>
                <td>
                  <form method="post" action="/act/drop-edit">@csrf
                    <input type="hidden" name="then" value="commit">
                    <input type="hidden" name="edit" value="{{ $e->id }}"><button class="btn small"
                      aria-label="Take out edit {{ $i + 1 }}">Take out</button>
                  </form>
                </td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
      </section>
      <aside class="side">
        <section class="follows" aria-label="What follows">
          <h2>What follows</h2>
          <p class="cause">Rehearsed as a whole: executed and rolled back</p>
          <div class="scroll" tabindex="0" role="region" aria-label="What would be written">
            <h3>Written <span>{{ number_format($outcome->rows()) }} {{ Str::plural('row', $outcome->rows()) }}</span></h3>
            <ol class="wake">
              @foreach (array_slice($outcome->written(), 0, 60) as $w)
                <li>@mark($w->op, $w->word())
                <span>{{ ucfirst($w->noun) }} <span class="mono">{{ $w->line }}</span></span></li>
              @endforeach
            </ol>
            @php
              $notes = collect($outcome->notes())->where('verdict', '!=', 'passed');
            @endphp
            @if ($outcome->trouble)
              <p class="wrong">{{ $outcome->trouble }}</p>
            @endif
            @if ($notes->isNotEmpty())
              <h3>Checks <span>{{ $notes->count() }}</span></h3>
              <ul class="checks">
                @foreach ($notes as $note)
                  @include('act.note')
                @endforeach
              </ul>
            @endif
          </div>
          @include('ship.needs', ['needs' => $outcome->needs])
          @if ($outcome->needs === [])
            <form id="commit" method="post" action="/ship/draft">
              @csrf
              <input type="hidden" name="shown" value="{{ $outcome->digest() }}">
              @if ($notes->contains('verdict', 'warned'))
                <div class="field"><span><label for="reason">Why in spite of the warnings</label></span>
                  <input id="reason" name="reason" maxlength="250" required>
                </div>
              @endif
              <div class="decide">
                <button class="btn main" data-key="main" @disabled($outcome->blocked())>Commit as one <kbd>Ctrl Enter</kbd></button>
              </div>
            </form>
          @endif
          <details @if ($outcome->needs !== []) open @endif>
            <summary class="hint">Ask others first</summary>
            <form method="post" action="/ship/drafts/{{ $draft->id }}/submit" class="form">
              @csrf
              <div class="field"><span><label for="draft-title">What it is, in a few words</label></span>
                <input id="draft-title" name="title" maxlength="120" required value="{{ old('title', $draft->title) }}">
              </div>
              <div class="field"><span><label for="draft-why">Why</label></span>
                <textarea id="draft-why" name="why" rows="2" maxlength="2000">{{ old('why', $draft->why) }}</textarea>
              </div>
              <div class="decide">
                <button class="btn {{ $outcome->needs !== [] ? 'main' : '' }}" @disabled($outcome->blocked())
                  @if ($outcome->needs !== []) data-key="main" @endif>Submit it</button>
              </div>
            </form>
          </details>
          <form method="post" action="/act/drop-draft" class="decide">@csrf
            <input type="hidden" name="then" value="commit">
            <input type="hidden" name="draft" value="{{ $draft->id }}"><button class="btn">Drop the draft</button>
          </form>
        </section>
      </aside>
    </div>
  @endif
  @if ($ended->isNotEmpty())
    <section class="panel">
      <header>
        <h2>Earlier drafts</h2>
      </header>
      <table>
        <tbody>
          @foreach ($ended as $d)
            <tr>
              <td>{{ $d->started_at->format('j M H:i') }}</td>
              <td>
                @if ($d->submitted_at)
                  <a href="/ship/drafts/{{ $d->id }}">{{ $d->line() }}</a>, {{ $d->state }}
                @else
                  {{ $d->state }}
                @endif
              </td>
              <td>{{ $d->edits_count }} edits</td>
            </tr>
          @endforeach
        </tbody>
      </table>
    </section>
  @endif
</x-layout>
