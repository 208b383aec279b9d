# frozen_string_literal: true

module Fobrel
  module Core
    module Apart
      # What one person may have computed at once on a whole machine, whichever program they asked: all
      # processors but one, so that those who only look are answered as on a quiet one. Told between
      # programs by locked files, which the system lets go when their holder ends.
      module Share
        MOST = [Etc.nprocessors - 1, 1].max
        # How often it is looked again, seconds.
        PAUSE = 0.03
        private_constant :MOST, :PAUSE

        class << self
          # @return [String, nil] the folder for the files; nil where no other program computes beside this
          attr_accessor :folder

          # Holds a share while the block runs.
          #
          # @param name [String] of whom, and what for
          # @param wait [#call] called again and again while there is none; raises when it is enough
          def held(name, wait:)
            file = take(name)
            until file
              wait.call
              sleep PAUSE
              file = take(name)
            end
            yield
          ensure
            file&.close
          end

          private

          def take(name)
            FileUtils.mkdir_p(folder)
            MOST.times do |place|
              file = File.open(File.join(folder, "#{name}-#{place}"), File::RDWR | File::CREAT)
              return file if file.flock(File::LOCK_EX | File::LOCK_NB)
              file.close
            end
            nil
          end
        end
      end
    end
  end
end
