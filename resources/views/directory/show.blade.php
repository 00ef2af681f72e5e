@php
  $me = auth()->user();
  $form = \App\View\DirectoryLists::mayMake($list, $me);
  $title = \App\View\DirectoryLists::title($list);
  $one = \App\View\DirectoryLists::one($list);
  // As they stand: sites in each other. Nobody changes themselves here.
  $order = $list === 'sites' ? array_map(fn($s) => $s->id, $siteUse->sites()) : $rows->modelKeys();
  $in = \App\View\InRow::of(
      $form ? array_values(array_diff($order, [$me->id])) : [],
      request('row') ? request('edit') : null,
      at('directory.list', $list),
      ['filter' => $filter, 'sort' => request('sort'), 'page' => request('page')],
      ['row' => '1'],
  );
  // People need more than a row holds; while a row is edited it is the only one with fields.
  $adds = $form && $list !== 'people' && $in->id === null;
@endphp
<x-layout :$title verb="directory" work="make" does="make one">
  @include('directory.nav', ['current' => $list])
  <header class="title">
    <h1>{{ $title }}</h1>
    @if ($list === 'sites')
      <span class="soft">{{ count($order) }}; counts and use of IPv4 subnets with those of all sites inside</span>
    @else
      <span class="soft">{{ number_format($listed->total) }}{{ $listed->more ? '+' : '' }}</span>
    @endif
    @if ($list === 'people')
      <span class="end row"><a class="btn small" href="{{ at('directory.roles') }}">What roles do</a></span>
    @endif
  </header>
@if ($list === 'vlans')
  <div class="bar-line flat">
    <span class="soft">switches read {{ $read ? \Carbon\CarbonImmutable::parse($read)->diffForHumans() : 'never' }}</span>
    @unless ($me->isBound())
      <form method="post" action="{{ at('directory.vlans.read') }}">@csrf
        <button class="btn small">Read them now</button>
      </form>
      @if ($network)
        <a class="btn small" href="{{ at('ship.server', $network) }}">Bring switches in step</a>
      @endif
    @endunless
    @if ($form)
        <a class="btn small" href="#make">Add VLANs</a>
      @endif
      @unless ($me->isBound())
        <a class="btn small" href="{{ at('directory.reach') }}">Reach</a>
        <a class="btn small" href="{{ at('directory.ports') }}">Ports</a>
      @endunless
      <a class="btn small" href="{{ at('plan.vlans', 'csv') }}">CSV</a>
      <a class="btn small" href="{{ at('plan.vlans', 'json') }}">JSON</a>
    </div>
    @if ($duplicates !== [])
      <section class="panel">
        <header>
          <h2>Seem to be one VLAN</h2>
          <span class="soft">the same number in two domains of one network</span>
        </header>
        <x-table label="Seem to be one VLAN">
          <tbody>
            @foreach ($duplicates as [$stays, $goes])
              <tr>
                <td class="num">{{ $stays->number }}</td>
                <td><a href="{{ at('directory.vlan', $stays->id) }}">{{ $stays->name }}</a> in {{ $stays->domain->name }}</td>
                <td><a href="{{ at('directory.vlan', $goes->id) }}">{{ $goes->name }}</a> in {{ $goes->domain->name }}</td>
                <td class="wrap">{{ $goes->description }}</td>
                @if ($form)
                  <td>
                    <form id="merge-{{ $goes->id }}" method="post" action="{{ at('act', 'merge-vlan') }}" class="row">@csrf
                      <input type="hidden" name="_form" value="merge-{{ $goes->id }}">
                      <input type="hidden" name="vlan" value="{{ $goes->id }}"><input type="hidden" name="into"
                        value="{{ $stays->id }}">
                      <button class="btn small" name="then" value="preview">Merge into {{ $stays->domain->name }}</button>
                    </form>
                  </td>
                @endif
              </tr>
            @endforeach
          </tbody>
        </x-table>
      </section>
    @endif
  @endif
  <div class="split @if ($form && $list !== 'vlans') two @endif">
    <section class="panel">
      @if ($listed)
        <x-filter :at="at('directory.list', $list)" :value="$filter" :$words :$misread
          :hint="$list === 'vlans' ? 'number, or start of a name' : 'start of a name'">
          @if ($list === 'vlans' && $filter !== 'is:wrong')
            <a class="soft" href="{{ at('directory.list', 'vlans') }}?filter=is:wrong">with something missing or different</a>
          @elseif ($filter !== '')
            <a class="soft" href="{{ at('directory.list', $list) }}">Show all</a>
          @endif
        </x-filter>
      @endif
      @if ($rows->isEmpty())
        <div class="empty">
          <h3>{{ $filter === '' ? 'None yet' : "None fits \"$filter\"" }}</h3>
        </div>
      @else
        <x-table :label="$title" data-worktable :data-paged="$listed !== null" @class(['vlan-sheet' => $list === 'vlans'])>
          @include($list === 'people' || $list === 'sites' || $list === 'vlans' ? "directory.table-$list" : 'directory.table-named')
        </x-table>
        @if ($listed)
          <x-pages :list="$listed" :what="lcfirst($title) === 'vLANs' ? 'VLANs' : lcfirst($title)" />
        @endif
      @endif
    </section>
    @if ($form)
      <div @class([
          'side' => $list !== 'vlans',
          'stack narrow' => $list === 'vlans',
      ])>
        @if ($adds && $rows->isNotEmpty())
          <x-row-adds :$in :action="\App\View\DirectoryLists::maker($list)" />
        @endif
        @if ($in->id !== null)
          @include('directory.row-form')
        @elseif ($edited && !in_array($list, ['vlans', 'people'], true))
          @include('directory.change', ['noun' => $one, 'row' => $edited])
        @endif
        <section class="panel">
          <header>
            <h2>Add a {{ $one }}</h2>
          </header>
          <div class="pad">
            @include('directory.make')
          </div>
        </section>
        <x-follows-slot form="make" />
        @includeWhen($list === 'vlans', 'directory.make-vlans')
      </div>
    @endif
  </div>
</x-layout>
