<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What nobody looks after is told to others too. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('notice_rules', static function (Blueprint $t): void {
            $t->unsignedInteger('after')->default(0); // minutes in which nobody looks after it; 0: nobody else is told
            $t->json('further')->nullable(); // ids of those who are told then
        });
        Schema::table('notices', static function (Blueprint $t): void {
            $t->dateTime('raised_at')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('notice_rules', static function (Blueprint $t): void {
            $t->dropColumn(['after', 'further']);
        });
        Schema::table('notices', static function (Blueprint $t): void {
            $t->dropColumn('raised_at');
        });
    }
};
