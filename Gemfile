# frozen_string_literal: true

source "https://rubygems.org"

ruby ">= 3.1"

gem "zeitwerk", "~> 2.6.18" # the last line that runs on Ruby 3.1
gem "prism", "~> 1.4"

gem "sinatra", "~> 4.1"
gem "puma", "~> 6.6"
gem "rack-protection", "~> 4.1"
gem "sequel", "~> 5.90"
gem "sqlite3", "~> 2.0"
gem "thor", "~> 1.3"
gem "ruby-progressbar", "~> 1.13"
gem "ruby-vips", "~> 2.2"
gem "zstd-ruby", "~> 1.5"
gem "parslet", "~> 2.0"
# Keys of frames are made of JSON: every program of the house must write numbers alike.
gem "json", "~> 3.1"
gem "rexml", "~> 3.3"
gem "rubyzip", "~> 2.4"
# More than one machine; the last line of it that runs on Ruby 3.1.
gem "sidekiq", "~> 7.3"
gem "net-http-persistent", "~> 4.0"

group :development, :test do
  gem "rspec", "~> 3.13"
  gem "rack-test", "~> 2.2"
  gem "capybara", "~> 3.40"
  gem "selenium-webdriver", "~> 4.20"
  gem "rerun", "~> 0.14", require: false
  gem "standard", "~> 1.40", require: false
end
