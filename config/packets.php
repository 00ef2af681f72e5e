<?php

declare(strict_types=1);

// Pages that send packets to servers, by their address: they have a pool of processes of their own, and a bound for each person.
return [
    '^/ship/(server/|together)',
    '^/name/(lookup|test|resolvers|take-in)',
    '^/name/zone/[^/?]+/(service|drift|fetch)',
    '^/lease/exchange',
    '^/lease/pairs/[^/?]+/(ask|down)',
    '^/lease/scope/[^/?]+/(drift|names)',
    '^/directory/vlans/read',
];
