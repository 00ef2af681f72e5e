@props(['list' => null, 'order' => null, 'by', 'num' => false])
{{-- A head by which the server sorts the list: one that is read page by page, or one whose order is told. --}}
@php
  $order ??= $list->order;
@endphp
<th @class(['num' => $num]) aria-sort="{{ $order->says($by) }}">
  <a class="sort" href="{{ request()->fullUrlWithQuery(['sort' => $order->asks($by), 'page' => null, 'from' => null]) }}">{{ $slot }}</a>
</th>
