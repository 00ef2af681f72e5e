<x-layout title="Views" verb="name">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li aria-current="page">Views</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Views</h1>
    <span class="soft">a client gets its answers from the first view that holds its address</span>
  </header>
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <table>
          <thead>
            <tr>
              <th class="num">Order</th>
              <th>View</th>
              <th>Clients</th>
              <th class="num">Zones</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($views as $v)
              <tr>
                <td class="num">{{ $v->position }}</td>
                <td class="name">{{ $v->name }}</td>
                <td class="mono wrap">{{ implode(', ', $v->clients) }}</td>
                <td class="num">{{ $counts[$v->id] ?? 0 }}</td>
              </tr>
            @endforeach
          </tbody>
        </table>
      </section>
      <section class="panel">
        <header>
          <h2>What would a client be told?</h2>
        </header>
        <form class="bar-line" action="{{ at('name.views') }}">
          @foreach (['zone', 'left', 'right'] as $k)
            @if (request($k))
              <input type="hidden" name="{{ $k }}" value="{{ request($k) }}">
            @endif
          @endforeach
          <div class="field"><span><label for="client">Client address</label></span><input id="client" name="client" class="mono"
              value="{{ request('client') }}" placeholder="10.45.1.9" size="18"></div>
          <div class="field"><span><label for="told">Name</label></span><input id="told" name="name" class="mono"
              value="{{ request('name') }}" placeholder="tickets.kittiwake.example" size="30"></div>
          <button class="btn">Show</button>
        </form>
        @if ($told)
          <dl class="facts pad">
            <dt>View</dt>
            <dd>
              @if ($told['view'])
                <b>{{ $told['view']->name }}</b>, by <span class="mono">{{ $told['by'] }}</span>
              @else
                <span class="stopped">{{ $told['by'] }}</span>
              @endif
            </dd>
            @if ($told['name'])
              <dt>By the plan</dt>
              <dd class="mono wrap">{{ implode('; ', $told['planned']) ?: 'nothing of ours' }}</dd>
              <dt>{{ $told['server'] ? $told['server'] . ' answers' : 'Answered' }}</dt>
              <dd class="mono wrap">{{ implode('; ', $told['answered']) ?: 'nothing' }}</dd>
            @endif
          </dl>
        @endif
      </section>
      <section class="panel">
        <header>
          <h2>Difference between views</h2>
        </header>
        @if ($split === [])
          <div class="empty">
            <h3>No zone stands in two views</h3>
            <p class="soft">Make the same zone again in another view to give its clients other answers.</p>
          </div>
        @else
          <form class="bar-line" action="{{ at('name.views') }}">
            <div class="field"><span><label for="zone">Zone</label></span>
              <select id="zone" name="zone">
                @foreach ($split as $n)
                  <option @selected($n === rtrim($left?->name ?? '', '.'))>{{ $n }}</option>
                @endforeach
              </select>
            </div>
            <div class="field"><span><label for="left">In</label></span>
              <select id="left" name="left">
                @foreach ($zones as $z)
                  <option value="{{ $z->view_id }}" @selected($z->id === $left?->id)>{{ $z->view->name }}</option>
                @endforeach
              </select>
            </div>
            <div class="field"><span><label for="right">against</label></span>
              <select id="right" name="right">
                @foreach ($zones as $z)
                  <option value="{{ $z->view_id }}" @selected($z->id === $right?->id)>{{ $z->view->name }}</option>
                @endforeach
              </select>
            </div>
            <label class="tick"><input type="checkbox" name="all" value="1" @checked($all)>also what is the same</label>
            <button class="btn">Compare</button>
          </form>
          @if ($difference && $difference['rows'] === [])
            <div class="empty">
              <h3>@mark('ok')The same in both</h3>
            </div>
          @elseif($difference)
            <x-table label="Difference between views" data-worktable>
              <thead>
                <tr>
                  @if ($may)
                    <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
                  @endif
                  <th>Name</th>
                  <th>Type</th>
                  <th>{{ $left->view->name }}</th>
                  <th>{{ $right->view->name }}</th>
                  <th>State</th>
                </tr>
              </thead>
              <tbody>
                @foreach ($difference['rows'] as $i => $r)
                  @php
                    $one = $r['left'][0] ?? $r['right'][0];
                  @endphp
                  <tr>
                    @if ($may)
                      <td class="pickcell">
                        @unless ($one->address_id)
                          <input type="checkbox" class="pick" form="share" name="records[]" value="{{ $one->id }}"
                            aria-label="Pick {{ $r['type'] }} {{ $r['owner'] }}">
                        @endunless
                      </td>
                    @endif
                    <td class="name mono">
                      @php
                $short = Str::of($r['owner'])->replace('.' . $left->name, '');
                      @endphp
              {{ $short->is($left->name) ? '@' : $short }}
                    </td>
                    <td>{{ $r['type'] }}</td>
                    @foreach (['left', 'right'] as $side)
                      <td class="mono wrap">
                        @forelse($r[$side] as $x)
                          {{ $x->data }}@unless ($loop->last)
                          <br>
                          @endunless @empty
                          <span class="open">nothing</span>
                        @endforelse
                      </td>
                    @endforeach
                    <td>
                      @php
                $only = ['left' => 'only in ' . $left->view->name, 'right' => 'only in ' . $right->view->name];
                      @endphp
              {{ ($only + ['same' => 'the same by chance', 'shared' => 'shared', 'differs' => 'differs'])[$r['state']] }}
                    </td>
                  </tr>
                @endforeach
              </tbody>
            </x-table>
            @if ($difference['more'])
              <p class="bar-line hint">and more; the first {{ \App\Queries\ViewDifference::MOST }} are shown</p>
            @endif
          @endif
        @endif
      </section>
    </div>
    <aside class="side">
      @if ($may)
        @if ($difference && $difference['rows'] !== [])
          <section class="panel">
            <header>
              <h2>Those picked</h2>
              <span class="soft"><span data-picked>0</span></span>
            </header>
            <div class="pad">
              <x-act id="share" action="share-records">
                <x-field form="share" name="views[]" label="Share with these views" 
                :options="$zones->mapWithKeys(fn($z) => [$z->view_id => $z->view->name])->all()" multiple
                  hint="none: keep them apart; shared records change together" />
              </x-act>
            </div>
          </section>
          <x-follows-slot form="share" />
        @endif
        @foreach ($views as $v)
          <details class="panel">
            <summary class="bar-line"><b>Change {{ $v->name }}</b></summary>
            <div class="pad">
              <x-act id="view{{ $loop->index }}" action="change-view" :seen="['view:' . $v->id => $v->version]"><input type="hidden" name="view"
                  value="{{ $v->id }}">
                <x-field form="view{{ $loop->index }}" name="clients" label="Client prefixes" mono rows="4" :value="$v->clients" />
                <x-field form="view{{ $loop->index }}" name="position" label="Order" :value="$v->position" inputmode="numeric" /></x-act>
              <x-cut
                :id="'cutview' . $loop->index"
                action="remove-object"
                :input="['noun' => 'view', 'object' => $v->id]"
                :target="'#follows-view' . $loop->index"
                :label="'Remove ' . $v->name"
                class="row end"
              />
            </div>
          </details>
          <div id="follows-view{{ $loop->index }}"></div>
        @endforeach
      @endif
    </aside>
  </div>
</x-layout>
