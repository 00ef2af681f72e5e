@php
  $page = at('lease.scope', $scope->id);
  $six = $scope->prefix->family === 6;
  $in = \App\View\InRow::of($reserve ? $scope->reservations->pluck('id') : [], request('edit'), $page);
  $edited = $in->id === null ? null : $scope->reservations->firstWhere('id', $in->id);
@endphp
<section class="panel">
  <header>
    <h2>Reservations</h2>
    <span class="soft">{{ $scope->reservations->count() }}</span>
    @if ($reserve)
      <span class="end row" data-needs-pick hidden>
        <form id="cutres" method="post" action="{{ at('act', 'remove-reservations') }}" hx-post="{{ at('act', 'remove-reservations') }}"
                hx-target="#follows-reserve">
          @csrf
          <input type="hidden" name="_form" value="cutres">
          <input type="hidden" name="scope" value="{{ $scope->id }}">
          <button class="btn stop small" name="then" value="preview">Remove <span data-picked>0</span></button>
        </form>
      </span>
    @endif
  </header>
  @if ($scope->reservations->isEmpty() && !$reserve)
    <p class="pad open">none</p>
  @else
    <x-table label="Reservations" data-worktable>
      <thead>
        <tr>
          @if ($reserve)
            <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
          @endif
          <th>Address</th>
          <th>Client</th>
          <th>Name</th>
          <th class="num">Own options</th>
          @if ($reserve)
            <th class="act"></th>
          @endif
        </tr>
      </thead>
      <tbody>
        @foreach ($scope->reservations as $r)
          <tr @class(['drafted' => isset($touched["reservation:$r->id"]), 'editing' => $in->is($r->id)]) data-row="{{ $r->id }}"
            title="{{ $touched["reservation:$r->id"] ?? '' }}">
            @if ($reserve)
              <td class="pickcell">
                <input type="checkbox" class="pick" form="cutres" name="reservations[]" value="{{ $r->id }}"
                  aria-label="Pick {{ $r->given() }}">
              </td>
            @endif
            @if ($in->is($r->id))
              <td><x-field bare form="changeres" name="address" label="Address" mono :value="$r->given()" /></td>
              <td><x-field bare form="changeres" name="mac" label="Client" mono :value="$r->client()" autofocus /></td>
              <td><x-field bare form="changeres" name="name" label="Name" :value="$r->name" /></td>
            @else
              <td class="mono">{{ $r->given() }}</td>
              <td class="mono">{{ $r->client() }}</td>
              <td>{{ $r->name }}</td>
            @endif
            <td class="num">
              @if ($may)
                <a href="{{ at('lease.options.of', 'reservation', $r->id) }}">{{ $r->optionValues->count() ?: 'none' }}</a>
              @else
                {{ $r->optionValues->count() ?: '' }}
              @endif
            </td>
            @if ($reserve)
              <x-row-act :$in :id="$r->id" :label="$r->given()" />
            @endif
          </tr>
        @endforeach
      </tbody>
      @if ($reserve && !$edited)
        <tfoot>
          <tr class="addrow">
            <td></td>
            <td>
              <x-field bare form="reserve" name="address" label="Address of a new reservation" mono
                :placeholder="$six ? 'address, or prefix/length' : 'address'" />
            </td>
            <td>
              <x-field bare form="reserve" name="mac" label="Client of a new reservation" mono
                :placeholder="$six ? 'DUID; “iaid 7” for one number' : 'MAC, or client identifier as 0x…'" />
            </td>
            <td>
              <x-field bare form="reserve" name="name" label="Name of a new reservation" placeholder="name" />
            </td>
            <td></td>
            <td><button class="btn small" form="reserve" name="then" value="preview">Reserve</button></td>
          </tr>
        </tfoot>
      @endif
    </x-table>
  @endif
  @if ($edited)
    <x-act id="changeres" action="change-reservation" :seen="['reservation:' . $edited->id => $edited->version]" :stay="$page" data-inrow
      :data-next="$in->next()">
      <input type="hidden" name="reservation" value="{{ $edited->id }}">
    </x-act>
  @elseif($reserve)
    <x-act id="reserve" action="add-reservation" :stay="$page . '#addrow'" :data-next="$page . '#addrow'" data-inrow hidden>
      <input type="hidden" name="scope" value="{{ $scope->id }}">
    </x-act>
  @endif
</section>
