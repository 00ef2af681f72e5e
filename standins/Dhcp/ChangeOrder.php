<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

/**
 * Which leases changed, in the order in which they did, so that a reader goes on where it stopped. It begins anew with the process: a
 * reader of before reads all of them once.
 */
final class ChangeOrder
{
    /** Changes beyond which reading all of them is less work. */
    private const MOST = 20_000;

    private readonly string $epoch;

    private int $at = 0;

    /** @var array<string, int> address → when it changed last, the last one last */
    private array $order = [];

    public function __construct()
    {
        $this->epoch = bin2hex(random_bytes(6));
    }

    public function note(string $address): void
    {
        unset($this->order[$address]);
        $this->order[$address] = ++$this->at;
    }

    public function cursor(): string
    {
        return "$this->epoch:$this->at";
    }

    /**
     * @return ?array{addresses: list<string>, cursor: string, more: bool} null for a cursor that is not of this process, or too old
     */
    public function since(string $cursor, int $limit): ?array
    {
        [$epoch, $from] = explode(':', $cursor, 2) + [1 => ''];
        if ($epoch !== $this->epoch || preg_match('/\A\d{1,15}\z/', $from) !== 1 || (int) $from > $this->at) {
            return null;
        }
        $changed = [];
        for ($seq = end($this->order); $seq !== false && $seq > (int) $from; $seq = prev($this->order)) {
            $changed[] = [(string) key($this->order), $seq];
            if (count($changed) > self::MOST) {
                return null;
            }
        }
        $page = array_slice(array_reverse($changed), 0, $limit);
        $more = count($changed) > count($page);

        return [
            'addresses' => array_column($page, 0), 'more' => $more,
            'cursor' => $more ? "$this->epoch:".$page[count($page) - 1][1] : $this->cursor(),
        ];
    }
}
