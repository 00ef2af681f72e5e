@include('errors.page', [
    'code' => 507,
    'head' => 'The disk is full',
    'says' => 'There is no room left to write to; nothing of what you sent was written. Whoever keeps this installation makes room. What is there can be read.',
    'to' => request()->isMethodSafe() ? request()->fullUrl() : '/',
    'label' => 'Try again',
])
