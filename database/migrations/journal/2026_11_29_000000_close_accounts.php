<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Accounts that are only read. */
return new class extends Migration {
    public function up(): void
    {
        Schema::table('accounts', static function (Blueprint $table): void {
            $table->boolean('closed')->default(false);
        });
    }

    public function down(): void
    {
        Schema::table('accounts', static function (Blueprint $table): void {
            $table->dropColumn('closed');
        });
    }
};
