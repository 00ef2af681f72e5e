<x-layout title="Ports" verb="directory" :work="$may ? 'profile' : null" does="make a port profile">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('directory.list', 'vlans') }}">VLANs</a></li>
      <li aria-current="page">Ports</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Ports of {{ $domain->name ?? 'no domain' }}</h1>
    <span class="soft">how they are meant to be set; read
      {{ $read ? \Carbon\CarbonImmutable::parse($read)->diffForHumans() : 'never' }}{{ $free > 0 ? ',' : '' }}
      {{ $free > 0 ? number_format($free) . ' without a profile' : '' }}</span>
    @include('directory.domain-choice', ['page' => at('directory.ports')])
    @if ($network)
      <a class="btn small" href="{{ at('ship.server', $network) }}">Bring switches in step</a>
    @endif
  </header>
  <div class="split @if ($may) two @endif">
    <div class="stack">
      <section class="panel">
        @if ($profiles->isEmpty())
          <x-empty title="No profile">A profile says how ports are set: the native VLAN, that of the phones, power. Give it to ports, and what lacks it is
            listed here.</x-empty>
        @else
          <x-table label="Port profiles" data-worktable>
            <thead>
              <tr>
                <th>Profile</th>
                <th>Sets</th>
                <th>Ports</th>
                <th>As meant</th>
                <th>Otherwise</th>
                <th>On no switch</th>
                @if ($may)
                  <th><span class="sr">Acts</span></th>
                @endif
              </tr>
            </thead>
            <tbody>
              @foreach ($profiles as $p)
                @php
                  $check = $checks[$p->id];
                @endphp
                <tr>
                  <td class="name">
                    <a href="{{ at('directory.ports') }}?domain={{ $domain->id }}&amp;profile={{ $p->id }}#profile">{{ $p->name }}</a>
                    @if ($p->description !== '')
                      <br><span class="hint">{{ $p->description }}</span>
                    @endif
                  </td>
                  <td class="wrap">{{ \App\Models\PortProfile::words($p->form()) }}</td>
                  <td class="wrap mono">
                    @foreach ($where[$p->id] as $device => $ports)
                      {{ $device }} {{ $ports }}@if (!$loop->last)
                        <br>
                      @endif
                    @endforeach
                  </td>
                  <td class="num">{{ count($check['right']) }}</td>
                  <td class="num">
                    @if ($check['lacking'] !== [])
                      @mark('warn')
                    @endif
                    {{ count($check['lacking']) }}
                  </td>
                  <td class="num">{{ count($check['unknown']) }}</td>
                  @if ($may)
                    <td>
                      <x-cut
                        :id="'cut' . $p->id"
                        action="remove-profile"
                        :input="['profile' => $p->id]"
                        target="#follows-profile"
                        label="Remove"
                        :of="$p->name"
                      />
                    </td>
                  @endif
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
      @foreach ($profiles as $p)
        @continue($checks[$p->id]['lacking'] === [] && $checks[$p->id]['unknown'] === [])
        <details class="panel" @if ($loop->first || $chosen?->id === $p->id) open @endif>
          <summary class="bar-line"><b>{{ $p->name }}: still to be set</b>
            <span class="soft">{{ count($checks[$p->id]['lacking']) + count($checks[$p->id]['unknown']) }}</span>
          </summary>
          <x-table :label="$p->name . ': still to be set'">
            <thead>
              <tr>
                <th>Port</th>
                <th>Set now</th>
                <th>Meant</th>
              </tr>
            </thead>
            <tbody>
              @foreach (array_slice($checks[$p->id]['lacking'], 0, 100) as $l)
                <tr>
                  <td class="mono">{{ $l['port'] }}</td>
                  <td class="wrap">{{ $l['is'] }}</td>
                  <td class="wrap">{{ \App\Models\PortProfile::words($p->form()) }}</td>
                </tr>
              @endforeach
              @foreach (array_slice($checks[$p->id]['unknown'], 0, 100) as $u)
                <tr>
                  <td class="mono">{{ $u }}</td>
                  <td class="open">no switch has it</td>
                  <td class="wrap">{{ \App\Models\PortProfile::words($p->form()) }}</td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
          @if (count($checks[$p->id]['lacking']) > 100 || count($checks[$p->id]['unknown']) > 100)
            <p class="hint pad">The first 100 of each are shown.</p>
          @endif
        </details>
      @endforeach
    </div>
    @if ($may && $domain)
      <div class="side">
        @if ($profiles->isNotEmpty())
          <section class="panel">
            <header>
              <h2>Give a profile to ports</h2>
            </header>
            <div class="pad">
              <x-act id="give" action="give-profile" :stay="at('directory.ports').'?domain=' . $domain->id">
                <x-field form="give" name="profile" label="Profile" :options="$profiles->pluck('name', 'id')->all()" :value="$chosen->id ?? ''" />
                <div class="pair">
                  <x-field form="give" name="device" label="Switch" mono list="devices" />
                  <x-field form="give" name="ports" label="Ports" mono placeholder="1-24, gi1/0/7-8" />
                </div>
                <datalist id="devices">
                  @foreach ($devices as $d)
                    <option value="{{ $d }}"></option>
                  @endforeach
                </datalist>
                <x-check form="give" name="away" label="take it from them instead" />
              </x-act>
            </div>
          </section>
          <x-follows-slot form="give" />
        @endif
        <section class="panel">
          <header>
            <h2>{{ $chosen ? 'Change ' . $chosen->name : 'Make a profile' }}</h2>
            @if ($chosen)
              <span class="end row"><a class="btn small" href="{{ at('directory.ports') }}?domain={{ $domain->id }}#profile">A new one</a></span>
            @endif
          </header>
          <div class="pad">
            <x-act id="profile" action="keep-profile" :stay="at('directory.ports').'?domain=' . $domain->id"
              :seen="$chosen ? ['port profile:' . $chosen->id => $chosen->version] : []">
              <input type="hidden" name="domain" value="{{ $domain->id }}">
              @if ($chosen)
                <input type="hidden" name="id" value="{{ $chosen->id }}">
              @endif
              <x-field form="profile" name="name" label="Name" :value="$chosen->name ?? ''" />
              <div class="pair">
                <x-field form="profile" name="native" label="Native VLAN" pick="VLAN" :only="$domain->id" blank="number or name"
                  :value="$chosen->native_vlan_id ?? ''" :shown="$chosen?->native->line() ?? ''" />
                <x-field form="profile" name="voice" label="Voice VLAN" pick="VLAN" :only="$domain->id" blank="none"
                  :value="$chosen->voice_vlan_id ?? ''" :shown="$chosen?->voice?->line() ?? ''" />
              </div>
              <x-check form="profile" name="lldp" label="phones are told it by LLDP-MED" :on="$chosen->lldp ?? true" />
              <x-check form="profile" name="poe" label="power over the cable" :on="$chosen->poe ?? false" />
              <div class="pair">
                <x-field form="profile" name="priority" label="Priority, 802.1p" type="number" min="0" max="7" :value="$chosen->priority ?? ''" />
                <x-field form="profile" name="description" label="Description" :value="$chosen->description ?? ''" />
              </div>
            </x-act>
          </div>
        </section>
        <x-follows-slot form="profile" />
      </div>
    @endif
  </div>
</x-layout>
