@php
  $spoken = fn($s) => $s === 0 ? 'on request' : \HarborPost\Core\Dns\Ttl::of($s)->spoken();
@endphp
<x-layout title="Signing" verb="name" work="keep-policy" does="the policy form">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li aria-current="page">Signing</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Signing</h1>
    <span class="soft">zones that are signed by DNSSEC, what their keys do next, and for whom anybody checks</span>
  </header>
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>Signed zones</h2>
          <span class="soft">the next step first</span>
        </header>
        @if ($signed->isEmpty())
          <x-empty title="No zone is signed yet">
            Make a policy, open a zone, and choose <b>Signing</b> there. Its parent names the key when no cache can be hurt by it.
          </x-empty>
        @else
          <x-table label="Signed zones">
            <thead>
              <tr>
                <th>Zone</th>
                <th>Policy</th>
                <th>Keys</th>
                <th>Next step</th>
                <th>When</th>
                <th>First signature ends</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($signed as $s)
                @php
                  $first = $s->first();
                  $until = $ends[$s->zone->id] ?? null;
                @endphp
                <tr>
                  <td class="name"><a class="mono" href="{{ at('name.zone.signing', $s->zone->id) }}">{{ $s->zone->title() }}</a>
                    <span class="soft">{{ $s->zone->view->name }}</span>
                  </td>
                  <td>{{ $s->zone->policy->name }}</td>
                  <td class="mono">
                    @foreach ($s->keys->whereNull('removed') as $k)
                      {{ strtoupper($k->role->value) }} {{ $k->tag }}{{ $loop->last ? '' : ', ' }}
                    @endforeach
                  </td>
                  <td class="wrap">
                    @if ($s->zone->unsign_asked)
                      @mark('wait') on its way out of signing
                    @else
                      {{ $first[0] ?? ($s->isParentAsked() ? 'waits for the parent' : 'nothing: keys are replaced on request') }}
                    @endif
                  </td>
                  <td>
                    {{ $first[2] ?? '' }}
                  </td>
                  <td>
                    @if ($until !== null)
                      <span @class(['stopped' => $until < now()->addDay()->getTimestamp()])>{{ gmdate('j M, H:i', (int) $until) }}</span>
                    @else
                      <span class="open">not shipped yet</span>
                    @endif
                  </td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
      <section class="panel">
        <header>
          <h2>Who is protected</h2>
          <span class="soft">by the resolvers that clients are given</span>
        </header>
        <x-table label="Who is protected">
          <thead>
            <tr>
              <th>Clients</th>
              <th>Given</th>
              <th>Who validates for them</th>
              <th>A bad signature gives them</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($clients as $c)
              <tr>
                <td class="wrap">
                  @foreach (array_slice($c['clients'], 0, 3) as $one)
                    <a href="{{ $one['link'] }}">{{ $one['label'] }}</a>{{ $loop->last ? '' : ', ' }}
                  @endforeach
                  @if (count($c['clients']) > 3)
                    <details>
                      <summary>and {{ count($c['clients']) - 3 }} more</summary>
                      @foreach (array_slice($c['clients'], 3) as $one)
                        <a href="{{ $one['link'] }}">{{ $one['label'] }}</a>{{ $loop->last ? '' : ', ' }}
                      @endforeach
                    </details>
                  @endif
                </td>
                <td class="mono wrap">{{ implode(', ', array_column($c['resolvers'], 'name')) }}</td>
                <td>
                  @mark($c['good'] ? 'ok' : 'warn')
                  {{ $c['words'] }}
                </td>
                <td>{{ $c['gives'] }}</td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
      </section>
      <section class="panel">
        <header>
          <h2>Resolvers and their anchors</h2>
          <span class="soft">as they are meant to be; in force when shipped</span>
        </header>
        <x-table label="Resolvers and their anchors">
          <thead>
            <tr>
              <th>Resolver</th>
              <th>Validates</th>
              <th>Anchors</th>
              <th>Believed without proof</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($resolvers as $r)
              @php
                $own = $r->resolving ?? [];
              @endphp
              <tr>
                <td class="name"><a href="{{ at('ship.server', $r->id) }}">{{ $r->name }}</a></td>
                <td>
                  @if (!($own['recursion'] ?? false))
                    <span class="open">resolves for nobody</span>
                  @elseif (($own['validating'] ?? false) && ($own['anchors'] ?? []) !== [])
                    @mark('ok') yes
                  @else
                    @mark('warn') no
                  @endif
                </td>
                <td class="mono wrap">
                  @forelse ($own['anchors'] ?? [] as $a)
                    @php
                      $words = explode(' ', $a);
                    @endphp
                    {{ rtrim($words[0], '.') ?: 'the root' }}, {{ $words[1] }} {{ $words[1] === 'DS' ? $words[2] : '' }}{{ $loop->last ? '' : '; ' }}
                  @empty
                    <span class="open">none</span>
                  @endforelse
                </td>
                <td class="mono wrap">{{ implode(', ', array_map(fn($z) => rtrim($z, '.'), $own['negative'] ?? [])) }}</td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
      </section>
      @if ($trial !== '')
        <section class="panel">
          <header>
            <h2>Names that are wrong on purpose</h2>
            <span class="soft">what a resolver makes of <span class="mono">{{ $trial }}</span>, by packets</span>
          </header>
          <form class="bar-line" hx-get="{{ at('name.signing.trial') }}" hx-target="#trial" action="{{ at('name.signing.trial') }}">
            <div class="field"><span><label for="trial-server">Asked at</label></span>
              <select id="trial-server" name="server">
                @foreach ($resolvers as $r)
                  <option value="{{ $r->id }}" @selected(($r->resolving['anchors'] ?? []) !== [])>{{ $r->name }}</option>
                @endforeach
              </select>
            </div>
            <button class="btn">Try them</button>
          </form>
          <div id="trial" aria-live="polite"></div>
        </section>
      @endif
      <section class="panel">
        <header>
          <h2>Policies</h2>
        </header>
        @if ($policies->isEmpty())
          <x-empty title="No policy yet">
            What the form proposes is sound: ECDSA P-256, a key for the keys and one for the zone, signatures that hold two weeks.
          </x-empty>
        @else
          <x-table label="Policies">
            <thead>
              <tr>
                <th>Policy</th>
                <th>Algorithm</th>
                <th>Keys</th>
                <th>Denial</th>
                <th>Signatures hold</th>
                <th>Made anew before the end</th>
                <th>Life of the zone key</th>
                <th class="num">Zones</th>
                <th></th>
              </tr>
            </thead>
            <tbody>
              @foreach ($policies as $p)
                <tr>
                  <td class="name">{{ $p->name }}</td>
                  <td class="mono">{{ $p->algorithm->mnemonic() }}</td>
                  <td>{{ $p->split ? 'two' : 'one for both' }}</td>
                  <td class="mono">{{ strtoupper($p->denial->value) }}</td>
                  <td>{{ $spoken($p->validity) }}</td>
                  <td>{{ $spoken($p->refresh) }}</td>
                  <td>{{ $spoken($p->zone_key_life) }}</td>
                  <td class="num">{{ $used[$p->id] ?? 0 }}</td>
                  <td>
                    @if ($may)
                      <span class="row"><a class="btn small" href="{{ at('name.signing') }}?policy={{ $p->id }}#keep-policy"
                          aria-label="Change {{ $p->name }}">Change</a>
                        <x-cut :id="'cut' . $p->id" action="remove-policy" :input="['policy' => $p->id]" label="Remove" :of="$p->name" />
                      </span>
                    @endif
                  </td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
    </div>
    @if ($may)
      @php
        $t = fn($s) => \HarborPost\Core\Dns\Ttl::of($s)->short();
      @endphp
      <aside class="side">
        <section class="panel">
          <header>
            <h2>{{ $edit ? "Change $edit->name" : 'Make a policy' }}</h2>
          </header>
          <div class="pad">
            <x-act id="keep-policy" action="keep-policy" :seen="$edit ? [$edit->id => $edit->version] : []">
              @if ($edit)
                <input type="hidden" name="id" value="{{ $edit->id }}">
              @endif
              <x-field form="keep-policy" name="name" label="Name" :value="$edit->name ?? ''" placeholder="sound" />
              <x-field form="keep-policy" name="algorithm" label="Algorithm" :value="$edit?->algorithm->value ?? '13'" :options="[
                  '13' => 'ECDSA P-256 (13), the usual choice',
                  '15' => 'Ed25519 (15), smallest answers',
                  '8' => 'RSA with SHA-256 (8), large answers',
              ]" />
              <x-field form="keep-policy" name="keys" label="Keys" :value="$edit && !$edit->split ? 'one' : 'two'" :options="[
                  'two' => 'one for the keys, one for the zone',
                  'one' => 'one for both',
              ]" />
              <x-field form="keep-policy" name="denial" label="Denial" :value="$edit?->denial->value ?? 'nsec'" :options="[
                  'nsec' => 'NSEC: anybody can list the zone',
                  'nsec3' => 'NSEC3: names as hashes, no salt',
                  'nsec3-opt-out' => 'NSEC3, unsigned delegations left out',
              ]" />
              <div class="pair">
                <x-field form="keep-policy" name="validity" label="Signatures hold" :value="$edit ? $t($edit->validity) : '14d'" mono />
                <x-field form="keep-policy" name="refresh" label="Made anew before the end" :value="$edit ? $t($edit->refresh) : '7d'" mono />
                <x-field form="keep-policy" name="jitter" label="Ends spread over" :value="$edit ? $t($edit->jitter) : '1d'" mono />
                <x-field form="keep-policy" name="keyTtl" label="TTL of the keys" :value="$edit ? $t($edit->key_ttl) : '1h'" mono />
                <x-field form="keep-policy" name="propagation" label="Its servers catch up in" :value="$edit ? $t($edit->propagation) : '1h'" mono />
                <x-field form="keep-policy" name="parentPropagation" label="The parent's catch up in" mono
                  :value="$edit ? $t($edit->parent_propagation) : '1h'" />
                <x-field form="keep-policy" name="dsTtl" label="TTL of the DS" :value="$edit ? $t($edit->ds_ttl) : '1d'" mono />
                <x-field form="keep-policy" name="zoneKeyLife" label="Life of the zone key" :value="$edit ? $t($edit->zone_key_life) : '90d'" mono
                  hint="0: on request" />
                <x-field form="keep-policy" name="entryLife" label="Life of the entry key" :value="$edit ? $t($edit->entry_life) : '0'" mono
                  hint="0: on request" />
              </div>
            </x-act>
          </div>
        </section>
        <x-follows-slot form="keep-policy" />
      </aside>
    @endif
  </div>
</x-layout>
