@include('errors.page', [
    'code' => 403,
    'head' => 'Not available to you',
    'says' => 'Your roles or your tenant do not reach this page. A steward can change that.',
    'to' => '/',
    'label' => 'To your first page',
])
